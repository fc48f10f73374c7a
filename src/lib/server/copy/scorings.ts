import { readRubric } from '$core/marking/rubric';
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

/** A scoring that was given: by whom, and when, in epoch milliseconds. */
export interface GivenScoring {
  scoring: Scoring;
  by: string;
  at: number;
}

/** The scoring of a score; null where there is no such score, or it was points alone. */
export async function readScoring(
  db: Connection,
  score: string | null,
): Promise<GivenScoring | null> {
  if (score === null) return null;
  const row = await db
    .selectFrom('score')
    .innerJoin('person', 'person.id', 'score.person_id')
    .select(['score.at', 'score.scoring', 'person.given', 'person.called'])
    .where('score.id', '=', score)
    .executeTakeFirst();
  if (!row?.scoring) return null;
  return {
    scoring: Scoring.parse(row.scoring),
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
