import { sql } from 'kysely';

/** The pages of a student: her own, and those she shares. For `page.id = any(…)`. */
export const pagesOf = (student: string) => sql<
  string[]
>`array(select id from page where student_id = ${student}
  union all select page_id from page_member where person_id = ${student})`;

/** Who has a page: its student, or those who share it. To be selected with the table `page`. */
export const HOLDERS = sql<
  string[]
>`case when page.student_id is not null then array[page.student_id] else array(
  select person_id from page_member where page_member.page_id = page.id) end`;
