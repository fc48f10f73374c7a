import { sql } from 'kysely';
import { z } from 'zod';
import { sortCollected, type Collectable, type Sorted } from '$core/collecting/collected';
import { stateOf, isWithTeacher } from '$core/copy/state';
import { grouped } from '$core/lists/grouped';
import type { Grant } from '../access/grant';
import { grantOnPage } from '../access/in-the-name-of';
import { refuseTooMany } from '../attached/change-attached';
import type { AttachedFile } from '../attached/attach';
import { readBytes } from '../attached/file-bytes';
import { attachFile } from '../attached/receive-on-copy';
import { readCopies } from '../copy/facts';
import { collectFor, takeBackFor } from '../copy/moves';
import { recordMove } from '../copy/record-move';
import { inTransaction, type Tx } from '../db/transaction';
import { Refusal, refusalIn } from '../page/refusal';
import type { Using } from '../services';

type Run = Grant<'run the assignment'>;
type App = Using<'db' | 'news' | 'pages' | 'jobs' | 'findPage'>;

const GONE = 'There is no such file here.';

const files = z.array(z.uuid()).min(1).max(3000);
/** What can be done with collected files. */
export const CollectingMove = z.discriminatedUnion('move', [
  z.strictObject({ move: z.literal('say whose'), file: z.uuid(), student: z.uuid().nullable() }),
  z.strictObject({ move: z.literal('put aside'), files, away: z.boolean() }),
  z.strictObject({ move: z.literal('collect'), files, handIn: z.boolean() }),
  z.strictObject({ move: z.literal('undo'), files }),
  z.strictObject({ move: z.literal('put together'), file: z.uuid() }),
  z.strictObject({
    move: z.literal('cut'),
    file: z.uuid(),
    cuts: z
      .array(
        z.strictObject({
          pages: z.array(z.int().min(1).max(5000)).min(1).max(500),
          student: z.uuid().nullable(),
        }),
      )
      .min(1)
      .max(500),
  }),
]);
type Move<M> = Extract<z.infer<typeof CollectingMove>, { move: M }>;

/** Students of the class, with their copies of the assignment. */
async function readStudents(app: Using<'db'>, { thing, person }: Run): Promise<Collectable[]> {
  const rows = await app.db
    .selectFrom('enrolment')
    .innerJoin('person', 'person.id', 'enrolment.person_id')
    .leftJoin('office_map', (join) =>
      join.onRef('office_map.person_id', '=', 'person.id').on('office_map.kind', '=', 'person'),
    )
    .select(['person.id', 'given', 'family', 'email', 'sourced_id as number'])
    .where('enrolment.class_id', '=', thing.class.id)
    .where('left_at', 'is', null)
    .orderBy('family')
    .orderBy('given')
    .orderBy('person.id')
    .execute();
  const which = { class: thing.class.id, assignment: thing.id };
  const copies = await readCopies(app.db, which, person.id);
  return rows.map((row) => {
    const copy = copies.find(
      ({ members, delivery }) => members.includes(row.id) && delivery !== 'to read',
    );
    return {
      ...row,
      number: row.number ?? '',
      copy: copy?.id ?? null,
      state: copy ? stateOf(copy.facts) : null,
    };
  });
}

/** All that was collected for an assignment of a class, and whose it is. */
export async function readCollecting(
  app: Using<'db'>,
  grant: Run,
): Promise<{ title: string; students: Collectable[]; files: Sorted[] }> {
  const { thing } = grant;
  const students = await readStudents(app, grant);
  const rows = await app.db
    .selectFrom('collected')
    .innerJoin('upload', 'upload.id', 'collected.upload_id')
    .leftJoin('attachment', 'attachment.id', 'collected.attachment_id')
    .select(['collected.id', 'path', 'collected.type', 'size', 'student_id', 'handed_in'])
    .select(['collected.away_at', 'apart', 'done', 'total', 'left_out', 'attachment.page_id'])
    .where('collected.assignment_id', '=', thing.id)
    .where('collected.class_id', '=', thing.class.id)
    .orderBy('collected.at')
    .orderBy('collected.from_id')
    .orderBy('place')
    .execute();
  const { title } = await app.db
    .selectFrom('assignment')
    .select('title')
    .where('id', '=', thing.id)
    .executeTakeFirstOrThrow();
  const collected = rows.map((row) => ({
    id: row.id,
    path: row.path,
    type: row.type,
    size: Number(row.size),
    student: row.student_id,
    copy: row.page_id,
    handedIn: row.handed_in,
    away: row.away_at !== null,
    apart: row.apart,
    done: row.done,
    total: row.total,
    leftOut: row.left_out,
  }));
  return { title, students, files: sortCollected(collected, students, title) };
}

/** A collected file, to be looked at. @throws Refusal when there is no such file */
export async function openCollected(
  app: Using<'db'>,
  { thing }: Run,
  file: string,
): Promise<AttachedFile> {
  const row = await app.db
    .selectFrom('collected')
    .innerJoin('upload', 'upload.id', 'collected.upload_id')
    .select(['upload.id', 'upload.name', 'upload.type', 'upload.size'])
    .where('collected.id', '=', file)
    .where('collected.assignment_id', '=', thing.id)
    .where('collected.class_id', '=', thing.class.id)
    .executeTakeFirst();
  if (!row) throw new Refusal(404, GONE);
  const { id, name, type } = row;
  return { name, type, size: Number(row.size), bytes: (range) => readBytes(app.db, id, range) };
}

/** Rows of the assignment's files. @throws Refusal when there is no such file */
const theirs = ({ thing }: Run, tx: Tx, ids: readonly string[]) =>
  tx
    .selectFrom('collected')
    .innerJoin('upload', 'upload.id', 'collected.upload_id')
    .selectAll('collected')
    .select(['upload.name', 'upload.size'])
    .where('collected.id', 'in', ids)
    .where('collected.assignment_id', '=', thing.id)
    .where('collected.class_id', '=', thing.class.id)
    .orderBy('collected.at')
    .orderBy('collected.from_id')
    .orderBy('collected.place')
    .orderBy('collected.id')
    .forUpdate('collected')
    .execute();

const SETTLED = 'This file is collected, or put aside, already.';

/** Says whose a file is. @throws Refusal */
export const sayWhose = (app: Using<'db'>, grant: Run, { file, student }: Move<'say whose'>) =>
  inTransaction(app.db, async (tx) => {
    const [row] = await theirs(grant, tx, [file]);
    if (!row) throw new Refusal(404, GONE);
    if (row.attachment_id !== null || row.apart !== null) throw new Refusal(409, SETTLED);
    if (student !== null) await refuseStrangers(tx, grant, [student]);
    await tx.updateTable('collected').set({ student_id: student }).where('id', '=', file).execute();
  });

async function refuseStrangers(tx: Tx, { thing }: Run, students: readonly string[]) {
  const wanted = [...new Set(students)];
  if (wanted.length === 0) return;
  const here = await tx
    .selectFrom('enrolment')
    .select('person_id')
    .where('class_id', '=', thing.class.id)
    .where('left_at', 'is', null)
    .where('person_id', 'in', wanted)
    .execute();
  if (here.length < wanted.length)
    throw new Refusal(422, 'Somebody of these is no student of this class.');
}

/** Puts files aside that are nobody's, or brings them back. */
export const putAside = (app: Using<'db'>, grant: Run, { files, away }: Move<'put aside'>) =>
  inTransaction(app.db, async (tx) => {
    const rows = await theirs(grant, tx, files);
    const open = rows.filter(({ attachment_id }) => attachment_id === null);
    if (open.length === 0) throw new Refusal(404, GONE);
    await tx
      .updateTable('collected')
      .set({ away_at: away ? new Date() : null })
      .where(
        'id',
        'in',
        open.map(({ id }) => id),
      )
      .execute();
  });

/** A stack of sheets is cut: the job does it. @throws Refusal */
export const cut = (app: Using<'db' | 'jobs'>, grant: Run, { file, cuts }: Move<'cut'>) =>
  inTransaction(app.db, async (tx) => {
    const [row] = await theirs(grant, tx, [file]);
    if (!row) throw new Refusal(404, GONE);
    if (row.type !== 'application/pdf') throw new Refusal(422, 'What is no PDF cannot be cut.');
    if (row.attachment_id !== null || row.away_at !== null || row.apart !== null)
      throw new Refusal(409, SETTLED);
    const pages = cuts.flatMap((one) => one.pages);
    if (new Set(pages).size < pages.length)
      throw new Refusal(422, 'A sheet was given to two students.');
    await refuseStrangers(
      tx,
      grant,
      cuts.flatMap(({ student }) => student ?? []),
    );
    await tx
      .updateTable('collected')
      .set({
        apart: 'begun',
        cuts: JSON.stringify(cuts),
        done: 0,
        total: cuts.length,
        left_out: '[]',
      })
      .where('id', '=', file)
      .execute();
    await app.jobs.put(tx, grant.thing.class.school_id, 'take apart', { file });
  });

/** What was taken apart is one file again, which can be cut in another way. @throws Refusal when a part of it was collected */
const putTogether = (app: Using<'db'>, grant: Run, { file }: Move<'put together'>) =>
  inTransaction(app.db, async (tx) => {
    const [row] = await theirs(grant, tx, [file]);
    if (row?.apart !== 'done') throw new Refusal(404, GONE);
    const parts = await tx
      .selectFrom('collected')
      .select(['id', 'upload_id', 'attachment_id'])
      .where('from_id', '=', file)
      .forUpdate()
      .execute();
    if (parts.some(({ attachment_id }) => attachment_id !== null))
      throw new Refusal(
        409,
        'Some of it is collected already. Undo that first, and put it together then.',
      );
    // What was on a copy once stays in that copy's past.
    await tx
      .updateTable('collected')
      .set({ from_id: null, away_at: new Date() })
      .where('from_id', '=', file)
      .where('upload_id', 'in', (eb) =>
        eb
          .selectFrom('attachment')
          .select(sql<string>`upload_id`.as('upload_id'))
          .where('upload_id', 'in', [...parts.map(({ upload_id }) => upload_id), row.upload_id]),
      )
      .execute();
    const gone = await tx
      .deleteFrom('collected')
      .where('from_id', '=', file)
      .returning('upload_id')
      .execute();
    for (const { upload_id } of gone)
      await tx.deleteFrom('upload').where('id', '=', upload_id).execute();
    await tx
      .updateTable('collected')
      .set({ apart: null, cuts: null, left_out: '[]', done: 0, total: 0 })
      .where('id', '=', file)
      .execute();
  });

export interface CollectedNow {
  /** How many files went to copies. */
  collected: number;
  /** The files of students whose copies do not take them, and why. */
  refused: { files: string[]; why: string }[];
}

/**
 * Attaches files to the copies of those whose they are, each student's together; and hands these in, if asked. What is doubtful or
 * settled stays as it is; one copy that takes nothing never stops the others.
 */
export async function collect(
  app: App,
  grant: Run,
  { files, handIn }: Move<'collect'>,
): Promise<CollectedNow> {
  const wanted = new Set(files);
  const { files: all, students } = await readCollecting(app, grant);
  const found = all.filter(({ id, standing }) => wanted.has(id) && standing === 'found');
  const copyOf = new Map(students.map(({ id, copy }) => [id, copy]));
  const now: CollectedNow = { collected: 0, refused: [] };
  for (const [copy, some] of grouped(found, ({ whose }) => copyOf.get(whose ?? '') ?? '')) {
    const ids = some.map(({ id }) => id);
    try {
      now.collected += await collectOnto(app, grant, { copy, files: ids, handIn });
    } catch (error) {
      const refusal = refusalIn(error);
      if (!refusal) throw error;
      now.refused.push({ files: ids, why: refusal.message });
    }
  }
  return now;
}

async function collectOnto(
  app: App,
  grant: Run,
  { copy, files, handIn }: { copy: string; files: string[]; handIn: boolean },
): Promise<number> {
  const { person } = grant;
  let count = 0;
  await collectFor(app, await grantOnPage(app, 'mark', person.id, copy), {
    handIn,
    attach: async (tx, { school, copy: row, kinds }) => {
      const open = (await theirs(grant, tx, files)).filter(
        ({ attachment_id, away_at, apart }) =>
          attachment_id === null && away_at === null && apart === null,
      );
      count = open.length;
      if (count > 0) refuseTooMany(row.attached.length + count - 1);
      for (const { id, upload_id, name, type } of open) {
        const by = { school, page: copy, by: person.id };
        const file = { upload: upload_id, name, type };
        const attachment = await attachFile(app.jobs, tx, by, file);
        await tx
          .updateTable('collected')
          .set({ attachment_id: attachment, handed_in: kinds.includes('handed in') })
          .where('id', '=', id)
          .execute();
      }
    },
  });
  return count;
}

/**
 * Takes collected files off their copies again; a copy that was handed in with them is taken back, unless it was marked since.
 * @throws Refusal when a copy cannot be taken back; the rest is undone then
 */
export async function uncollect(app: App, grant: Run, { files }: Move<'undo'>): Promise<void> {
  const rows = await app.db
    .selectFrom('collected')
    .innerJoin('attachment', 'attachment.id', 'collected.attachment_id')
    .select(['collected.id', 'attachment.page_id', 'handed_in'])
    .where('collected.id', 'in', files)
    .where('collected.assignment_id', '=', grant.thing.id)
    .where('collected.class_id', '=', grant.thing.class.id)
    .execute();
  if (rows.length === 0) throw new Refusal(404, GONE);
  const refused: Refusal[] = [];
  for (const [page, some] of grouped(rows, ({ page_id }) => page_id)) {
    try {
      const mark = await grantOnPage(app, 'mark', grant.person.id, page);
      if (some.some(({ handed_in }) => handed_in)) await takeBackFor(app, mark);
      await recordMove(
        app,
        { page, person: grant.person.id },
        ({ facts }) => {
          if (isWithTeacher(stateOf(facts)))
            throw new Refusal(409, 'It is handed in, so what was collected stays on it.');
          return [];
        },
        async (tx) => {
          await takeOff(
            tx,
            some.map(({ id }) => id),
          );
          return null;
        },
      );
    } catch (error) {
      const refusal = refusalIn(error);
      if (!refusal) throw error;
      refused.push(refusal);
    }
  }
  const [first] = refused;
  if (first) throw first;
}

async function takeOff(tx: Tx, ids: readonly string[]) {
  await tx
    .updateTable('attachment')
    .set({ away_at: new Date() })
    .where((eb) =>
      eb.exists(
        eb
          .selectFrom('collected')
          .select('collected.id')
          .where('collected.id', 'in', ids)
          .whereRef('collected.attachment_id', '=', 'attachment.id'),
      ),
    )
    .where('away_at', 'is', null)
    .execute();
  await tx
    .updateTable('collected')
    .set({ attachment_id: null, handed_in: false })
    .where('id', 'in', ids)
    .execute();
}

/** Does what was asked with collected files. @throws Refusal */
export async function moveCollected(
  app: App,
  grant: Run,
  asked: z.infer<typeof CollectingMove>,
): Promise<CollectedNow | null> {
  switch (asked.move) {
    case 'say whose':
      await sayWhose(app, grant, asked);
      return null;
    case 'put aside':
      await putAside(app, grant, asked);
      return null;
    case 'put together':
      await putTogether(app, grant, asked);
      return null;
    case 'cut':
      await cut(app, grant, asked);
      return null;
    case 'undo':
      await uncollect(app, grant, asked);
      return null;
    case 'collect':
      return collect(app, grant, asked);
  }
}
