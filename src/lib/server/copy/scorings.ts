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
}

/** What a score says besides its points; null where there is no such score, or it was points alone. */
export async function readScoring(
  db: Connection,
  score: string | null,
): Promise<GivenScoring | null> {
  if (score === null) return null;
  const row = await db
    .selectFrom('score')
    .innerJoin('person', 'person.id', 'score.person_id')
    .select(['score.at', 'score.scoring', 'score.checked', 'person.given', 'person.called'])
    .where('score.id', '=', score)
    .executeTakeFirst();
  if (!row?.scoring && !row?.checked) return null;
  return {
    scoring: row.scoring && Scoring.parse(row.scoring),
    checked: row.checked && Checked.parse(row.checked),
    by: row.called || row.given,
    at: row.at.getTime(),
  };
}

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
