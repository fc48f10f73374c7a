import { sql } from 'kysely';
import type { Grant } from '../access/grant';
import type { Database } from '../db/connect';
import { COMMENT_SENT } from './sent';

/** Somebody of the staff wrote in the margin of a student's page last, and it is not settled. */
export interface WrittenTo {
  page: string;
  kind: 'copy' | 'own page';
  title: string;
  /** "Ms Orrey" */
  by: string;
  /** What it is tied to; empty for the whole page. */
  quote: string;
  text: string;
  /** Epoch milliseconds. */
  at: number;
}

/** So many are shown; the others stand where they were written. */
const MOST = 5;

/**
 * What staff wrote to a student and they have not answered, the newest first.
 * @param copies those that they see
 */
export async function readWrittenTo(
  db: Database,
  { person }: Grant<'see own work'>,
  copies: readonly string[],
): Promise<WrittenTo[]> {
  const { rows } = await sql<Omit<WrittenTo, 'at'> & { at: Date }>`
    select page.id as page, page.kind, page.title, coalesce(nullif(person.called, ''), person.given) as by,
      thread.quote, last.text, last.at
    from page join thread on thread.page_id = page.id
    cross join lateral (select kind, person_id, text, at from comment
      where thread_id = thread.id and ${COMMENT_SENT} order by id desc limit 1) last
    join person on person.id = last.person_id
    join class on class.id = page.class_id
    where page.threads > 0 and page.away_at is null and last.kind = 'said' and person.role <> 'student'
      and class.opened_at is not null and class.archived_at is null
      and (page.id = any(${copies}::uuid[]) or (page.kind = 'own page' and page.student_id = ${person.id}
        and exists (select from enrolment here where here.class_id = page.class_id
          and here.person_id = ${person.id} and here.left_at is null)))
    order by last.at desc limit ${MOST}`.execute(db);
  return rows.map((row) => ({ ...row, at: row.at.getTime() }));
}
