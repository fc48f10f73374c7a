import { checkParts, type Checked, type Overruled } from '$core/marking/check-copy';
import { overruledIn, rightOf } from '$core/marking/sum-checked';
import { stateOf, isWithTeacher } from '$core/copy/state';
import { partsOf } from '$core/page/parts';
import type { Grant } from '../access/grant';
import { readCopyKeys } from '../course/answer-keys';
import { inTransaction, type Tx } from '../db/transaction';
import { publishToClasses } from '../live/listeners';
import { readPage, type Connection } from '../page/page-store';
import type { Using } from '../services';
import { readCopies } from './facts';
import { readScoring } from './scorings';
import { recordMoveIn, type Recorded } from './record-move';

/** How a copy as it stands agrees with its keys; null where it has none. */
export async function checkNow(
  db: Connection,
  page: string,
  overruled: Overruled = {},
): Promise<Checked | null> {
  const row = await db
    .selectFrom('page')
    .select(['id', 'version', 'source_id', 'source_version', 'for_id'])
    .where('id', '=', page)
    .executeTakeFirstOrThrow();
  const { source_id: source, for_id: original } = row;
  if (!source || !original) return null;
  const keys = await readCopyKeys(db, { source, for: original });
  return checkParts(partsOf((await readPage(db, row)).doc), keys, overruled);
}

/** What a check of a copy is kept as in its score: a share of whatever its assignment counts for. */
export function keptCheck(checked: Checked) {
  const { right, of } = rightOf(checked);
  return {
    points: null,
    checked: JSON.stringify(checked),
    rubric_points: String(right),
    rubric_most: String(of),
  };
}

const readMarkingOf = (tx: Connection, assignment: string) =>
  tx
    .selectFrom('assignment')
    .select(['marking', 'made_by'])
    .where('id', '=', assignment)
    .executeTakeFirstOrThrow();

/** Whoever set the keys scores by them. @returns the score's id; null where the copy has no keys */
async function scoreByKey(
  tx: Tx,
  at: { page: string; school: number; version: number; by: string },
  overruled: Overruled = {},
): Promise<string | null> {
  const checked = await checkNow(tx, at.page, overruled);
  if (!checked) return null;
  const { id } = await tx
    .insertInto('score')
    .values({
      school_id: at.school,
      page_id: at.page,
      person_id: at.by,
      version: at.version,
      ...keptCheck(checked),
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  return id;
}

/**
 * Marks a copy that was handed in just now, where its assignment marks itself, and hands it back where it says so.
 * @returns the copy as it stands then
 */
export async function markByKey(tx: Tx, page: string, recorded: Recorded): Promise<Recorded> {
  const { marking, made_by: by } = await readMarkingOf(tx, recorded.copy.assignment);
  if (marking === 'by hand') return recorded;
  const { school_id: school, version } = recorded;
  const score = await scoreByKey(tx, { page, school, version, by });
  if (score === null) return recorded;
  const isBack = marking === 'by key, handed back';
  return recordMoveIn(
    tx,
    { page, person: by },
    () => (isBack ? ['handed back'] : []),
    async () => (isBack ? score : null),
  );
}

/**
 * Checks again, with the keys as they are now, what is with the teacher or back, and was checked before or not scored at
 * all. What somebody decided against a key stays; what somebody scored otherwise is not touched.
 * @returns how many came to something else
 */
export async function checkAgain(
  app: Using<'db' | 'news'>,
  { thing, person }: Grant<'run the assignment'>,
): Promise<number> {
  const klass = thing.class.id;
  const changed = await inTransaction(app.db, async (tx) => {
    // Held first: how they stand is read when nobody can hand in, take back or score any more.
    const held = await tx
      .selectFrom('page')
      .select(['id', 'version', 'school_id'])
      .where('assignment_id', '=', thing.id)
      .where('class_id', '=', klass)
      .where('kind', '=', 'copy')
      .where('sealed', '=', false)
      .orderBy('id')
      .forUpdate()
      .execute();
    const copies = await readCopies(tx, { class: klass, assignment: thing.id }, person.id);
    let count = 0;
    for (const { id: page, facts, score } of copies) {
      const state = stateOf(facts);
      if (!isWithTeacher(state) && state !== 'handed back') continue;
      const row = held.find(({ id }) => id === page);
      const last = (await readScoring(tx, score))?.checked ?? null;
      if (!row || (score !== null && !last)) continue;
      const next = await checkNow(tx, page, overruledIn(last));
      if (!next || JSON.stringify(next) === JSON.stringify(last)) continue;
      await scoreByKey(
        tx,
        { page, school: row.school_id, version: row.version, by: person.id },
        overruledIn(last),
      );
      count += 1;
    }
    return count;
  });
  if (changed > 0) publishToClasses(app, [klass]);
  return changed;
}
