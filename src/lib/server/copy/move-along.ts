import { sql } from 'kysely';
import type { Using } from '../services';
import { beginAs } from './own-pages';

interface Left {
  /** Of the page that it becomes: made of the page and the class, so that two rosters at once take it once. */
  id: string;
  page: string;
  title: string;
  student: string;
  /** Where they are now. */
  class: string;
  school: number;
  folio: 'cover' | 'hidden' | null;
  place: number;
}

/**
 * Who has gone from one class to another of the same course takes along what they wrote: it lies in their new workbook, as
 * it stood, as pages of their own. What both classes were handed out goes with them itself; what stays behind keeps its
 * history. It may be called whenever somebody came or went: nothing is taken twice.
 * @returns how many pages were taken along
 */
export async function moveAlong(
  app: Using<'db' | 'pages'>,
  people: readonly string[],
): Promise<number> {
  if (people.length === 0) return 0;
  const { rows } = await sql<Left>`
    select md5(page.id::text || new.id::text)::uuid as id, page.id as page, page.title, page.student_id as student, now_in.class_id as class,
      -- Others are in the new class: what was shown is hidden until it is shown to them.
      case when page.folio = 'cover' and not exists (select from page there where there.class_id = now_in.class_id
        and there.student_id = page.student_id and there.folio = 'cover' and there.away_at is null) then 'cover'
        when page.folio is not null then 'hidden' end as folio, page.place, page.school_id as school
    from enrolment went
    join class old on old.id = went.class_id and old.archived_at is null
    join enrolment now_in on now_in.person_id = went.person_id and now_in.left_at is null
    join class new on new.id = now_in.class_id and new.course_id = old.course_id
    join page on page.class_id = old.id and page.student_id = went.person_id
    where went.person_id = any(${people}::uuid[]) and went.left_at is not null
      and page.kind in ('copy', 'own page') and page.written_at is not null and page.away_at is null
      and not exists (select from assignment_class handed
        where handed.assignment_id = page.assignment_id and handed.class_id = new.id)
      and not exists (select from page taken
        where taken.from_id = page.id and taken.class_id = new.id and taken.student_id = page.student_id)
    order by page.made_at`.execute(app.db);
  for (const { page, ...spec } of rows) {
    const { doc } = await app.pages.open(page);
    await beginAs(app, { ...spec, unit: null, from: page }, doc);
  }
  return rows.length;
}
