import { checkParts, type Checked, type GivenParts } from '$core/marking/check-copy';
import { sumParts } from '$core/marking/sum-parts';
import { partsOf } from '$core/page/parts';
import { readCopyKeys } from '../course/answer-keys';
import type { Tx } from '../db/transaction';
import { readPage, type Connection } from '../page/page-store';
import { recordMoveIn, type Recorded } from './record-move';

/** How a copy as it stands agrees with its keys; null where it has none. */
export async function checkNow(
  db: Connection,
  page: string,
  given: GivenParts = {},
): Promise<Checked | null> {
  const row = await db
    .selectFrom('page')
    .select(['id', 'version', 'source_id', 'source_version', 'for_id'])
    .where('id', '=', page)
    .executeTakeFirstOrThrow();
  const { source_id: source, for_id: original } = row;
  if (!source || !original) return null;
  const keys = await readCopyKeys(db, { source, for: original });
  return checkParts(partsOf((await readPage(db, row)).doc), keys, given);
}

/** What the points of its parts are kept as in a copy's score: once all have some, a share of what its assignment counts for. */
export function keptCheck(checked: Checked) {
  const { points, most, left } = sumParts(checked);
  return {
    points: null,
    checked: JSON.stringify(checked),
    rubric_points: left === 0 ? points : null,
    rubric_most: left === 0 ? most : null,
  };
}

const readMarkingOf = (tx: Connection, assignment: string) =>
  tx
    .selectFrom('assignment')
    .select(['marking', 'made_by'])
    .where('id', '=', assignment)
    .executeTakeFirstOrThrow();

/** Whoever set the keys scores by them. @returns the score, and how many parts a person has to score; null without keys */
async function scoreByKey(
  tx: Tx,
  at: { page: string; school: number; version: number; by: string },
): Promise<{ id: string; left: number } | null> {
  const checked = await checkNow(tx, at.page);
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
  return { id, left: sumParts(checked).left };
}

/**
 * Marks a copy that was handed in just now, where its assignment marks itself, and hands it back where it says so and
 * nothing is left to a person.
 * @returns the copy as it stands then
 */
export async function markByKey(tx: Tx, page: string, recorded: Recorded): Promise<Recorded> {
  const { marking, made_by: by } = await readMarkingOf(tx, recorded.copy.assignment);
  if (marking === 'by hand') return recorded;
  const { school_id: school, version } = recorded;
  const score = await scoreByKey(tx, { page, school, version, by });
  if (score === null) return recorded;
  const isBack = marking === 'by key, handed back' && score.left === 0;
  return recordMoveIn(
    tx,
    { page, person: by },
    () => (isBack ? ['handed back'] : []),
    async () => (isBack ? score.id : null),
  );
}
