import { sql } from 'kysely';
import type { CopyFacts } from '$core/copy/state';
import type { Connection } from '../page/page-store';

/** A copy as the board and the lists show it. Instants in epoch milliseconds. */
export interface CopyRow {
  id: string;
  assignment: string;
  class: string;
  student: string;
  /** Which parts are done ("101"). */
  mask: string;
  words: number;
  version: number;
  /** The last score, a decimal text. */
  points: string | null;
  facts: CopyFacts;
}

type Which = { class: string } | { student: string } | { page: string };

interface Row {
  id: string;
  assignment_id: string;
  class_id: string;
  student_id: string;
  mask: string | null;
  words: number;
  version: number;
  points: string | null;
  opened: Date | null;
  written: Date | null;
  handed_in: Date | null;
  first_handed_in: Date | null;
  taken_back: Date | null;
  scored: Date | null;
  handed_back: Date | null;
  looked: Date | null;
  staff_looked: Date | null;
  due_at: Date | null;
}

const time = (at: Date | null) => at?.getTime() ?? null;

/**
 * Copies with the facts their states are computed from.
 * @param viewer whose looks count for "unread"
 */
export async function readCopies(db: Connection, which: Which, viewer: string): Promise<CopyRow[]> {
  const where =
    'class' in which
      ? sql`page.class_id = ${which.class}`
      : 'student' in which
        ? sql`page.student_id = ${which.student}`
        : sql`page.id = ${which.page}`;
  const { rows } = await sql<Row>`
    select page.id, page.assignment_id, page.class_id, page.student_id, page.version,
      coalesce(page.done_mask, repeat('0', jsonb_array_length(coalesce(begun.parts, '[]'::jsonb)))) as mask,
      coalesce(page.words, 0) as words, page.written_at as written, handed.due_at,
      given.points, given.at as scored,
      e.opened, e.handed_in, e.first_handed_in, e.taken_back, e.handed_back, e.looked, e.staff_looked
    from page
    join assignment_class handed
      on handed.assignment_id = page.assignment_id and handed.class_id = page.class_id
    left join snapshot begun on begun.page_id = page.source_id and begun.version = page.source_version
    left join lateral (
      select
        min(at) filter (where kind = 'opened') as opened,
        max(at) filter (where kind = 'handed in') as handed_in,
        min(at) filter (where kind = 'handed in') as first_handed_in,
        max(at) filter (where kind = 'taken back') as taken_back,
        max(at) filter (where kind = 'handed back') as handed_back,
        max(at) filter (where kind = 'looked' and person_id = ${viewer}) as looked,
        max(at) filter (where kind = 'looked') as staff_looked
      from event where event.page_id = page.id) e on true
    left join lateral (
      select points::text, at from score where score.page_id = page.id order by id desc limit 1) given on true
    where page.kind = 'copy' and ${where}`.execute(db);
  return rows.map((row) => ({
    id: row.id,
    assignment: row.assignment_id,
    class: row.class_id,
    student: row.student_id,
    mask: row.mask ?? '',
    words: row.words,
    version: row.version,
    points: row.points,
    facts: {
      opened: time(row.opened),
      written: time(row.written),
      attached: null,
      handedIn: time(row.handed_in),
      firstHandedIn: time(row.first_handed_in),
      takenBack: time(row.taken_back),
      scored: time(row.scored),
      handedBack: time(row.handed_back),
      looked: time(row.looked),
      staffLooked: time(row.staff_looked),
      due: time(row.due_at),
    },
  }));
}

export async function readCopy(db: Connection, page: string, viewer: string): Promise<CopyRow> {
  const [copy] = await readCopies(db, { page }, viewer);
  if (!copy) throw new Error(`no copy ${page}`);
  return copy;
}
