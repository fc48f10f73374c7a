import { sql } from 'kysely';
import { Checked } from '$core/marking/check-copy';
import type { LastTime } from '$core/marking/before-and-now';
import { pointsOf } from '$core/marking/kept-score';
import { Scoring } from '$core/marking/scoring';
import type { Connection } from '../page/page-store';
import { pagesOf } from './holders';

interface Row {
  page_id: string;
  title: string;
  most: string | null;
  at: Date;
  id: string;
  points: string | null;
  scoring: object | null;
  checked: object | null;
  rubric_points: string | null;
  rubric_most: string | null;
}
const BACKS = sql`
  select page.id as page_id, page.title, assignment.points::text as most, event.at, score.id, score.points::text,
    score.scoring, score.checked, score.rubric_points::text, score.rubric_most::text
  from event join score on score.id = event.score_id
  join page on page.id = event.page_id join assignment on assignment.id = page.assignment_id
  where event.kind = 'handed back'`;

function readRow(row: Row, title: string | null): LastTime {
  const { rubric_points: points, rubric_most: most } = row;
  const rubric = points !== null && most !== null ? { points, most } : null;
  return {
    title,
    at: row.at.getTime(),
    points: pointsOf({ points: row.points, rubric }, row.most),
    most: row.most,
    scoring: row.scoring && Scoring.parse(row.scoring),
    checked: row.checked && Checked.parse(row.checked),
  };
}

/**
 * What a copy was handed back with before.
 * @param score what it has now, which is not compared with itself: an id
 */
export async function readBackBefore(
  db: Connection,
  page: string,
  score: string | null,
): Promise<LastTime | null> {
  const { rows } = await sql<Row>`${BACKS} and event.page_id = ${page}
    and score.id < ${score ?? '9223372036854775807'}::bigint order by event.id desc limit 1`.execute(
    db,
  );
  return rows[0] ? readRow(rows[0], null) : null;
}

/**
 * What a student compares a copy with that came back: what the same copy had before; else the last work of theirs that was scored
 * by the same rubric, and came back earlier.
 */
export async function readLastTime(
  db: Connection,
  { page, student }: { page: string; student: string },
): Promise<LastTime | null> {
  const { rows } =
    await sql<Row>`${BACKS} and event.page_id = ${page} order by event.id desc limit 1`.execute(db);
  const [now] = rows;
  if (!now) return null;
  const before = await readBackBefore(db, page, now.id);
  const rubric = now.scoring && Scoring.parse(now.scoring).rubric.id;
  if (before || !rubric) return before;
  const others = await sql<Row>`${BACKS} and event.page_id <> ${page} and event.at < ${now.at}
    and page.id = any(${pagesOf(student)}) and page.away_at is null
    and score.scoring #>> '{rubric,id}' = ${rubric} order by event.id desc limit 1`.execute(db);
  const [other] = others.rows;
  return other ? readRow(other, other.title) : null;
}
