import { randomUUID } from 'node:crypto';
import { sql } from 'kysely';
import { z } from 'zod';
import { isBlank } from '$core/headcount/causes';
import type { Elsewhere } from '$core/headcount/gap';
import { followSteps } from '$core/headcount/level-of-steps';
import type { Grant } from '../access/grant';
import { readCopies, readCopy } from '../copy/facts';
import { inTransaction, type Tx } from '../db/transaction';
import { sharePictures } from '../file/files';
import { notify } from '../message/messages';
import { HeldPage } from '../page/held-page';
import { loggedJson, readHistories, readPage } from '../page/page-store';
import { Refusal } from '../page/refusal';
import { refuseSealed } from '../page/sealed';
import { writeSnapshots } from '../page/write-changes';
import type { Using } from '../services';

/** What a page was before it took the place of a copy. */
const WAS = [
  'kind',
  'title',
  'assignment_id',
  'for_id',
  'delivery',
  'source_id',
  'source_version',
  'guarded',
  'unit_id',
  'folio',
] as const;
const Was = z.object({
  kind: z.enum(['copy', 'own page']),
  title: z.string(),
  assignment_id: z.uuid().nullable(),
  for_id: z.uuid().nullable(),
  delivery: z.enum(['one each', 'to read', 'one for all', 'one per group']).nullable(),
  source_id: z.uuid().nullable(),
  source_version: z.int().nullable(),
  guarded: z.boolean(),
  unit_id: z.uuid().nullable(),
  folio: z.enum(['cover', 'hidden', 'shown']).nullable(),
});

const lockPages = (tx: Tx, pages: readonly string[]) =>
  tx
    .selectFrom('page')
    .select([...WAS, 'id', 'school_id', 'class_id', 'student_id', 'version', 'away_at', 'sealed'])
    .where('id', '=', sql<string>`any(${pages}::uuid[])`)
    .orderBy('id')
    .forUpdate()
    .execute();

const CHANGED = 'This has changed since you looked. Please look again.';

/**
 * Moves what a student wrote on another page to the copy that it belongs to: that page, with its whole history, takes the
 * empty copy's place. Where it holds other answers too, a clone does, and the page stays. Within a transaction of its own.
 * @param copy the empty copy
 * @returns by what it can be undone, and the assignment whose copy went, if one did
 * @throws Refusal when something was changed since
 */
export async function moveWork(
  app: Using<'db' | 'memory'>,
  { thing: klass, person }: Grant<'manage the class'>,
  copy: string,
  { page, hasOwnWork }: Pick<Elsewhere, 'page' | 'hasOwnWork'>,
): Promise<{ id: string; left: string | null }> {
  return inTransaction(app.db, async (tx) => {
    const rows = await lockPages(tx, [copy, page]);
    const blank = rows.find(({ id }) => id === copy);
    const work = rows.find(({ id }) => id === page);
    if (!blank || !work || blank.student_id !== work.student_id || work.class_id !== klass.id)
      throw new Refusal(409, CHANGED);
    refuseSealed(blank);
    const [row] = await readCopies(tx, { page: copy }, person.id);
    const scored = await tx
      .selectFrom('score')
      .select('id')
      .where('page_id', '=', page)
      .executeTakeFirst();
    if (!row || !isBlank(row) || blank.away_at || work.away_at || scored)
      throw new Refusal(409, CHANGED);
    const at = new Date();
    const moved = hasOwnWork ? await clonePage(tx, work.id) : work.id;
    await keepBeginning(tx, moved, work, at);
    await tx.updateTable('page').set({ away_at: at }).where('id', '=', copy).execute();
    const { title, assignment_id, for_id, delivery, source_id, guarded } = blank;
    await tx
      .updateTable('page')
      .set({
        kind: 'copy',
        title,
        assignment_id,
        for_id,
        delivery,
        source_id,
        source_version: null,
        guarded,
        unit_id: null,
        folio: null,
      })
      .where('id', '=', moved)
      .execute();
    await keepLevel(tx, moved);
    await sharePictures(tx, [{ id: moved, from: work.id }]);
    const was = Object.fromEntries(WAS.map((name) => [name, work[name]]));
    const { id } = await tx
      .insertInto('moved_work')
      .values({
        school_id: work.school_id,
        page_id: moved,
        blank_id: copy,
        cloned: hasOwnWork,
        was: JSON.stringify(was),
        made_by: person.id,
        at,
      })
      .returning('id')
      .executeTakeFirstOrThrow();
    await notify(tx, {
      school: work.school_id,
      people: work.student_id ? [work.student_id] : [],
      link: `/work/${moved}`,
      fact: {
        kind: 'moved here',
        title,
        by: person.called || `${person.given} ${person.family}`,
        from: work.title,
      },
      cause: `moved ${id}`,
    });
    return { id, left: hasOwnWork ? null : work.assignment_id };
  });
}

/** A page that stands for another original begins as what it began as: its first version is kept with it. */
async function keepBeginning(
  tx: Tx,
  page: string,
  work: { id: string; school_id: number; version: number } & Pick<
    z.infer<typeof Was>,
    'source_id' | 'source_version'
  >,
  at: Date,
) {
  const { doc } = await readPage(tx, work, 0);
  const held = HeldPage.at(0, doc, []);
  await writeSnapshots(tx, at, [{ id: page, school: work.school_id, held }]);
}

/** How much is written on it was not kept while it was an own page. */
async function keepLevel(tx: Tx, page: string) {
  const row = await tx
    .selectFrom('page')
    .select(['id', 'version', 'source_id', 'source_version'])
    .where('id', '=', page)
    .executeTakeFirstOrThrow();
  const history = (await readHistories(tx, [row], new Date())).get(page);
  if (!history) return;
  const { level } = followSteps(history.start, history.steps.map(loggedJson));
  await tx
    .updateTable('page')
    .set({ level: JSON.stringify(level) })
    .where('id', '=', page)
    .execute();
}

/** The same page once more, with how it was written; nobody opened it, and nothing was said of it. */
async function clonePage(tx: Tx, page: string): Promise<string> {
  const id = randomUUID();
  await sql`insert into page (id, school_id, kind, title, class_id, student_id, version, seen_from, done_mask, words,
      written_at, made_at)
    select ${id}, school_id, 'own page', title, class_id, student_id, version, seen_from, done_mask, words, written_at, made_at
    from page where id = ${page}`.execute(tx);
  // Its sittings are kept by a trigger.
  await sql`insert into step (page_id, version, school_id, author_id, at, client, client_no, body)
    select ${id}, step.version, page.school_id, author_id, at, client, client_no, body
    from page cross join lateral logged_steps(page.id, 0, page.version) as step
    where page.id = ${page} order by step.version`.execute(tx);
  await sql`insert into snapshot (page_id, version, school_id, at, doc, authorship, parts)
    select ${id}, version, school_id, at, doc, authorship, parts from snapshot where page_id = ${page}`.execute(
    tx,
  );
  return id;
}

/** Takes moved work back to where it was; what was written since goes with it. @throws Refusal when the way is not free */
export async function moveWorkBack(
  app: Using<'db'>,
  { thing: klass, person }: Grant<'manage the class'>,
  id: string,
): Promise<void> {
  await inTransaction(app.db, async (tx) => {
    const moved = await tx
      .selectFrom('moved_work')
      .selectAll()
      .where('id', '=', id)
      .where('undone_at', 'is', null)
      .forUpdate()
      .executeTakeFirst();
    const rows = moved ? await lockPages(tx, [moved.page_id, moved.blank_id]) : [];
    const page = rows.find((row) => row.id === moved?.page_id);
    if (!moved || !page || page.class_id !== klass.id)
      throw new Refusal(409, 'This was undone before.');
    refuseSealed(page);
    const was = Was.parse(moved.was);
    const at = new Date();
    if (moved.cloned) {
      await tx.updateTable('page').set({ away_at: at }).where('id', '=', page.id).execute();
    } else {
      if (was.assignment_id && was.for_id)
        await clearPlace(tx, page.student_id, was, person.id, at);
      await tx.updateTable('page').set(was).where('id', '=', page.id).execute();
    }
    await tx.updateTable('page').set({ away_at: null }).where('id', '=', moved.blank_id).execute();
    await tx.updateTable('moved_work').set({ undone_at: at }).where('id', '=', id).execute();
  });
}

/** The empty copy that was given for the one that was moved goes again. */
async function clearPlace(
  tx: Tx,
  student: string | null,
  { assignment_id, for_id }: z.infer<typeof Was>,
  viewer: string,
  at: Date,
) {
  const instead = await tx
    .selectFrom('page')
    .select('id')
    .where('assignment_id', '=', assignment_id)
    .where('for_id', '=', for_id)
    .where('student_id', '=', student)
    .where('away_at', 'is', null)
    .where('replaced_at', 'is', null)
    .executeTakeFirst();
  if (!instead) return;
  if (!isBlank(await readCopy(tx, instead.id, viewer)))
    throw new Refusal(
      409,
      'They have begun on the empty copy that they got instead, so this cannot be undone.',
    );
  await tx.updateTable('page').set({ away_at: at }).where('id', '=', instead.id).execute();
}
