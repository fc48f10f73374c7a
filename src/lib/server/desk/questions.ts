import { sql } from 'kysely';
import type { Question } from '$core/desk/desk-view';
import { COMMENT_STANDS } from '../copy/sent';
import { IS_ASKED } from '../copy/who-is-asked';
import type { Database } from '../db/connect';

/** Threads in which a student spoke last and waits for this teacher: on copies and own pages of those who are in the class. */
export async function readQuestions(
  db: Database,
  teacher: string,
  classes: readonly string[],
): Promise<Question[]> {
  const { rows } = await sql<{
    page: string;
    kind: Question['kind'];
    class: string;
    given: string;
    family: string;
    at: Date;
  }>`
    select page.id as page, page.kind, page.class_id as class, person.given, person.family, last.at
    from page join class_staff staff on staff.class_id = page.class_id and staff.person_id = ${teacher}
    join thread on thread.page_id = page.id
    cross join lateral (select kind, person_id, at from comment
      where thread_id = thread.id and ${COMMENT_STANDS} order by id desc limit 1) last
    join person on person.id = last.person_id
    join enrolment here on here.class_id = page.class_id and here.person_id = last.person_id and here.left_at is null
    left join assignment_class handed
      on handed.assignment_id = page.assignment_id and handed.class_id = page.class_id
    where page.class_id = any(${classes}::uuid[]) and page.threads > 0 and page.away_at is null
      and page.kind in ('copy', 'own page') and handed.withdrawn_at is null
      and last.kind = 'said' and person.role = 'student' and ${IS_ASKED}
    order by last.at`.execute(db);
  return rows.map(({ page, kind, class: klass, given, family, at }) => ({
    page,
    kind,
    class: klass,
    by: `${given} ${family}`,
    at: at.getTime(),
  }));
}
