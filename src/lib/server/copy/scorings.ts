import { readRubric } from '$core/marking/rubric';
import { Checked } from '$core/marking/check-copy';
import { Scoring } from '$core/marking/scoring';
import type { Connection } from '../page/page-store';

/** The rubric that an assignment is scored by, as it stands now, though it was taken away from its course; null for none. */
export async function readRubricOf(
  db: Connection,
  assignment: string,
): Promise<Scoring['rubric'] | null> {
  const row = await db
    .selectFrom('assignment')
    .innerJoin('rubric', 'rubric.id', 'assignment.rubric_id')
    .select(['rubric.id', 'rubric.title', 'rubric.version', 'rubric.body'])
    .where('assignment.id', '=', assignment)
    .executeTakeFirst();
  if (!row) return null;
  const { total: _total, ...table } = readRubric(row.body);
  return { id: row.id, title: row.title, version: row.version, table };
}

/** What was given besides points: by the rubric, or by the answer keys; by whom, and when, in epoch milliseconds. */
export interface GivenScoring {
  scoring: Scoring | null;
  checked: Checked | null;
  by: string;
  at: number;
  /** Why it differs from what the copy had before; null for nothing said. */
  why: string | null;
}

/** What scores say besides their points, by their ids; those that were points alone are left out. */
export async function readScorings(
  db: Connection,
  scores: readonly string[],
): Promise<ReadonlyMap<string, GivenScoring>> {
  if (scores.length === 0) return new Map();
  const rows = await db
    .selectFrom('score')
    .innerJoin('person', 'person.id', 'score.person_id')
    .select(['score.id', 'score.at', 'score.scoring', 'score.checked', 'score.why'])
    .select(['person.given', 'person.called'])
    .where('score.id', 'in', [...scores])
    .execute();
  return new Map(
    rows
      .filter(({ scoring, checked, why }) => scoring || checked || why)
      .map((row) => [
        row.id,
        {
          scoring: row.scoring && Scoring.parse(row.scoring),
          checked: row.checked && Checked.parse(row.checked),
          by: row.called || row.given,
          at: row.at.getTime(),
          why: row.why,
        },
      ]),
  );
}

/** The same of one score; null where there is none. */
export const readScoring = async (
  db: Connection,
  score: string | null,
): Promise<GivenScoring | null> =>
  score === null ? null : ((await readScorings(db, [score])).get(score) ?? null);

/** What a copy's students have of its scorings: the one that it was handed back with last. */
export async function readFeedback(db: Connection, page: string): Promise<GivenScoring | null> {
  const last = await db
    .selectFrom('event')
    .select('score_id')
    .where('page_id', '=', page)
    .where('kind', '=', 'handed back')
    .orderBy('id', 'desc')
    .limit(1)
    .executeTakeFirst();
  return readScoring(db, last?.score_id ?? null);
}

/** What an assignment counts for; null for no points. */
export const readPointsOf = async (db: Connection, assignment: string): Promise<string | null> =>
  (
    await db
      .selectFrom('assignment')
      .select('points')
      .where('id', '=', assignment)
      .executeTakeFirstOrThrow()
  ).points;
