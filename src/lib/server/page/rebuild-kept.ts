import { Step } from 'prosemirror-transform';
import { isWithTeacher, stateOf } from '$core/copy/state';
import { moveAnchor } from '$core/history/anchor';
import { sittingsOf } from '$core/history/sittings';
import { followSteps } from '$core/headcount/level-of-steps';
import { countWords, doneMask, partsOf, textOf } from '$core/page/parts';
import { schema } from '$core/page/schema';
import { readCopy } from '../copy/facts';
import type { Database } from '../db/connect';
import { loggedJson, readPage, readSteps, type Connection, type LoggedRow } from './page-store';
import { inTransaction } from '../db/transaction';

/** Moves a page's threads from where they were made to where their words stand now. */
async function rebuildThreads(db: Connection, page: { id: string; version: number }) {
  const threads = await db
    .selectFrom('thread')
    .select(['id', 'made_version', 'made_from', 'made_to'])
    .where('page_id', '=', page.id)
    .execute();
  for (const { id, made_version, made_from, made_to } of threads) {
    if (made_from === null || made_to === null) continue;
    const steps = await readSteps(db, page.id, made_version, page.version);
    const now = steps.reduce(
      (anchor, row) => moveAnchor(anchor, Step.fromJSON(schema, row.body).getMap()),
      { from: made_from, to: made_to },
    );
    await db
      .updateTable('thread')
      .set({ at_from: now.from, at_to: now.to })
      .where('id', '=', id)
      .execute();
  }
  return threads.length;
}

/** Makes again, from the facts alone, everything that is kept beside them for speed. One page at a time. */
export async function rebuildKept(db: Database): Promise<void> {
  const pages = await db.selectFrom('page').select(['id']).execute();
  for (const { id } of pages)
    await inTransaction(db, async (tx) => {
      const page = await tx
        .selectFrom('page')
        .selectAll()
        .where('id', '=', id)
        .forUpdate()
        .executeTakeFirstOrThrow();
      const logged = await readSteps(tx, id, 0, page.version);
      const members = await tx
        .selectFrom('page_member')
        .select('person_id')
        .where('page_id', '=', id)
        .execute();
      const students = [page.student_id, ...members.map(({ person_id }) => person_id)];
      const written = logged.findLast(({ author_id }) => students.includes(author_id));
      const isWith =
        page.kind === 'copy' && isWithTeacher(stateOf((await readCopy(tx, id, '')).facts));
      const level =
        page.kind === 'copy'
          ? followSteps((await readPage(tx, page, 0)).doc, logged.map(loggedJson)).level
          : null;
      const doc = page.version > 0 ? (await readPage(tx, page)).doc : null;
      await rebuildSittings(tx, page, logged);
      await tx
        .updateTable('page')
        .set({
          done_mask: doc && doneMask(partsOf(doc)),
          words: doc && countWords(textOf(doc)),
          level: level && JSON.stringify(level),
          written_at: written?.at ?? null,
          with_teacher: isWith,
          threads: await rebuildThreads(tx, page),
        })
        .where('id', '=', id)
        .execute();
    });
}

async function rebuildSittings(
  tx: Connection,
  page: { id: string; school_id: number },
  logged: readonly LoggedRow[],
) {
  await tx.deleteFrom('sitting').where('page_id', '=', page.id).execute();
  const sittings = sittingsOf(
    logged.map(({ author_id: author, at, version }) => ({ author, at: at.getTime(), version })),
  );
  if (sittings.length === 0) return;
  await tx
    .insertInto('sitting')
    .values(
      sittings.map(({ author, from, to, steps }) => ({
        page_id: page.id,
        person_id: author,
        school_id: page.school_id,
        first: steps[0]?.version ?? 0,
        last: steps.at(-1)?.version ?? 0,
        begun_at: new Date(from),
        ended_at: new Date(to),
        steps: steps.length,
      })),
    )
    .execute();
}
