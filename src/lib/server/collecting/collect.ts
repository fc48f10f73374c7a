import type { Sorted } from '$core/collecting/collected';
import { isWithTeacher, stateOf } from '$core/copy/state';
import { grouped } from '$core/lists/grouped';
import { grantOnPage } from '../access/in-the-name-of';
import { refuseTooMany } from '../attached/change-attached';
import { attachFile } from '../attached/receive-on-copy';
import { readCopy } from '../copy/facts';
import { collectFor, takeBackFor } from '../copy/moves';
import { recordMove } from '../copy/record-move';
import type { Tx } from '../db/transaction';
import { Refusal, refusalIn } from '../page/refusal';
import type { Using } from '../services';
import { sideBySide } from '../side-by-side';
import type { Move, Run } from './collecting-move';
import { readCollecting } from './read-collecting';
import { GONE, theirFiles } from './their-files';

type App = Using<'db' | 'news' | 'pages' | 'jobs' | 'findPage'>;

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
  const byCopy = grouped(found, ({ whose }) => copyOf.get(whose ?? '') ?? '');
  await sideBySide(byCopy, async ([copy, some]) => {
    try {
      const taken = await collectOnto(app, grant, { copy, files: some, handIn });
      now.collected += taken;
    } catch (error) {
      const refusal = refusalIn(error);
      if (!refusal) throw error;
      now.refused.push({ files: some.map(({ id }) => id), why: refusal.message });
    }
  });
  return now;
}

async function collectOnto(
  app: App,
  grant: Run,
  { copy, files, handIn }: { copy: string; files: readonly Sorted[]; handIn: boolean },
): Promise<number> {
  const { person } = grant;
  let count = 0;
  const said = new Map(files.map(({ id, student }) => [id, student]));
  await collectFor(app, await grantOnPage(app, 'mark', person.id, copy), {
    handIn,
    attach: async (tx, { school, copy: row, kinds }) => {
      // Meanwhile somebody may have settled one, or said that it is another’s.
      const open = (await theirFiles(grant, tx, [...said.keys()])).filter(
        ({ id, attachment_id, away_at, apart, student_id }) =>
          attachment_id === null &&
          away_at === null &&
          apart === null &&
          student_id === said.get(id),
      );
      count = open.length;
      if (count === 0) throw new Refusal(409, 'Somebody else decided about these files just now.');
      refuseTooMany(row.attached.length + count - 1);
      for (const [index, { id, upload_id, name, type }] of open.entries()) {
        const by = { school, page: copy, by: person.id };
        const file = { upload: upload_id, name, type };
        const after = open.length - 1 - index;
        const attachment = await attachFile(app.jobs, tx, by, file, after);
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
      const { facts: now } = await readCopy(app.db, page, grant.person.id);
      if (isWithTeacher(stateOf(now)) && some.some(({ handed_in }) => handed_in))
        await takeBackFor(app, mark);
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
    .set({ away_at: new Date(), undone: true })
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
