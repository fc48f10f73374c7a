import { sql, type RawBuilder } from 'kysely';
import { isEnrolled, type Moment } from '../db/as-of';

/** The pages of a student in the classes they are in now: their own, and those they share. For `page.id = any(…)`. */
export const pagesOf = (student: string) => sql<
  string[]
>`array(select id from page join enrolment here on here.class_id = page.class_id and here.person_id = page.student_id
    where student_id = ${student} and here.left_at is null
  union all select page_id from page_member join page shared on shared.id = page_id
    join enrolment here on here.class_id = shared.class_id and here.person_id = page_member.person_id
    where page_member.person_id = ${student} and here.left_at is null)`;

/** Those who share a page and are in its class; empty for one that is one student's alone. To be selected with `page`. */
const sharersAt = (at: Moment) => sql<
  string[]
>`case when page.group_name is null then '{}'::uuid[] else array(
  select page_member.person_id from page_member
  join enrolment here on here.class_id = page.class_id and here.person_id = page_member.person_id
  where page_member.page_id = page.id and ${isEnrolled('here', at)}) end`;
export const SHARERS = sharersAt(null);

/** Who has a page: its student, or those who share it. To be selected with the table `page`. */
export const holdersAt = (at: Moment) =>
  sql<
    string[]
  >`case when page.student_id is not null then array[page.student_id] else ${sharersAt(at)} end`;
export const HOLDERS = holdersAt(null);

/** Whether a page, which is not put away, is somebody's: theirs alone, or shared by them. */
export const isHeld = (page: string, person: RawBuilder<unknown>) => {
  const is = sql.table(page);
  return sql<boolean>`(${is}.away_at is null and (${is}.student_id = ${person}
    or exists (select from page_member where page_id = ${is}.id and person_id = ${person})))`;
};

/** Whether a copy was dealt to somebody, to be scored by them. To be asked of the table `page`. */
export const isDealtTo = (
  person: RawBuilder<unknown>,
) => sql<boolean>`exists (select from reading join page as by_page on by_page.id = reading.by_page_id
  where reading.page_id = page.id and ${isHeld('by_page', person)})`;
