import { sql } from 'kysely';
import { inCupboard } from '../access/class-state';
import { COMMENT_SENT, PROPOSAL_SENT } from '../copy/sent';
import type { Tx } from '../db/transaction';

/**
 * The numbers that things have in an archive, as temporary tables `archived_…(n, id)` of one transaction: made from a
 * class when it is written, filled with new ids when it is read. Ids that are read get are in the order of their numbers,
 * so that what is written again has the same.
 */
export const NUMBERED = [
  'page',
  'unit',
  'assignment',
  'rubric',
  'grouping',
  'thread',
  'proposal',
  'attachment',
] as const;

/** The tables by the name of what they number, with the type of its id. */
const TABLES = {
  ...Object.fromEntries(NUMBERED.map((name) => [name, 'uuid'])),
  person: 'uuid',
  score: 'bigint',
};

export async function makeNumberTables(tx: Tx): Promise<void> {
  for (const [name, type] of Object.entries(TABLES))
    await sql
      .raw(
        `create temporary table archived_${name} (n int primary key, id ${type} not null unique) on commit drop`,
      )
      .execute(tx);
}

/** The planner knows nothing of a table that was just filled. */
export async function analyzeNumbers(tx: Tx): Promise<void> {
  for (const name of Object.keys(TABLES)) await sql.raw(`analyze archived_${name}`).execute(tx);
}

/** What an archive is made of: a class, or what one of its students has in it. */
export interface Archived {
  class: string;
  /** Null for the whole class. */
  student: string | null;
  /** Who makes it. */
  by: string;
}

/**
 * Numbers all that belongs to an archive. To a student belong their own pages, those that they share, and what these
 * began as; not what was withdrawn from them, or lies in the cupboard.
 */
export async function numberClass(tx: Tx, archived: Archived): Promise<void> {
  const { class: klass, student } = archived;
  await makeNumberTables(tx);
  const own =
    student === null
      ? sql`true`
      : sql`(page.student_id = ${student} or exists (select from page_member
          where page_member.page_id = page.id and page_member.person_id = ${student}))
          and page.kind in ('copy', 'own page') and page.away_at is null
          and not exists (select from assignment_class handed where handed.assignment_id = page.assignment_id
            and handed.class_id = page.class_id
            and (handed.withdrawn_at is not null or ${inCupboard('handed.unit_id')}))`;
  await sql`insert into archived_page (n, id)
    with recursive here as (select page.id, page.source_id, page.for_id, page.assignment_id from page
        where page.class_id = ${klass} and ${own}),
      needed(id) as (
        select id from here union select source_id from here where source_id is not null
        union select for_id from here where for_id is not null
        union select original.page_id from assignment_original original join assignment_class handed
          on handed.assignment_id = original.assignment_id and handed.class_id = ${klass}
          ${student === null ? sql`` : sql`join here on here.assignment_id = original.assignment_id and here.for_id = original.page_id`}
        ${
          student === null
            ? sql`union select page.from_id from page join needed on needed.id = page.id where page.adapted`
            : sql``
        })
    select row_number() over (order by id), id from needed`.execute(tx);
  await sql`insert into archived_assignment (n, id)
    select row_number() over (order by assignment_id), assignment_id from assignment_class where class_id = ${klass}
    ${
      student === null
        ? sql``
        : sql`and assignment_id in (select assignment_id from page join archived_page using (id))`
    }`.execute(tx);
  await sql`insert into archived_unit (n, id)
    select row_number() over (order by id), id from unit where class_id = ${klass}
    ${
      student === null
        ? sql``
        : sql`and (id in (select unit_id from assignment_class join archived_assignment
            on archived_assignment.id = assignment_id where class_id = ${klass})
          or id in (select unit_id from page join archived_page using (id) where kind = 'own page'))`
    }`.execute(tx);
  // A rubric is the staff's; what was handed back has its own with it.
  if (student === null)
    await sql`insert into archived_rubric (n, id)
    select row_number() over (order by id), id from rubric
    where id in (select rubric_id from assignment join archived_assignment using (id))`.execute(tx);
  if (student === null)
    await sql`insert into archived_grouping (n, id)
      select row_number() over (order by id), id from "grouping" where class_id = ${klass}`.execute(
      tx,
    );
  await sql`insert into archived_thread (n, id)
    select row_number() over (order by thread.id), thread.id from thread join archived_page page on page.id = thread.page_id
    where ${student === null ? sql`true` : sql`exists (select from comment where comment.thread_id = thread.id and ${COMMENT_SENT})`}`.execute(
    tx,
  );
  await sql`insert into archived_proposal (n, id)
    select row_number() over (order by page.n, proposal.at, proposal.id), proposal.id
    from proposal join archived_page page on page.id = proposal.page_id
    where ${student === null ? sql`true` : PROPOSAL_SENT}`.execute(tx);
  await sql`insert into archived_attachment (n, id)
    select row_number() over (order by page.n, attachment.at, attachment.id), attachment.id
    from attachment join archived_page page on page.id = attachment.page_id
    where not attachment.undone ${student === null ? sql`` : sql`and attachment.away_at is null`}`.execute(
    tx,
  );
  // Of what was kept back a student knows nothing.
  const back =
    student === null
      ? sql`true`
      : sql`exists (select from event where event.score_id = score.id and event.kind = 'handed back')`;
  await sql`insert into archived_score (n, id)
    select row_number() over (order by score.id), score.id from score join archived_page page on page.id = score.page_id
    where ${back}`.execute(tx);
  await numberPeople(tx, archived);
}

/** What somebody of `class_staff` is in a class; who opened it from an archive, what they were before. */
export const staffOf = (
  klass: string,
) => sql`(select case when brought #>> '{opener,person}' = class_staff.person_id::text
  then brought #>> '{opener,was}' else class_staff.kind end from class where class.id = ${klass})`;

/** The office's number for a person, in this school or in the one that an opened archive comes from. */
export const officeOf = (klass: string) => sql`coalesce(
  (select sourced_id from office_map where office_map.person_id = person.id and office_map.kind = 'person'),
  (select brought -> 'office' ->> person.id::text from class where class.id = ${klass}))`;

/** What students scored their own copies with: of classmates a student’s archive holds no more than words. */
export const OWN_SCORING = sql`given.by_page_id is null`;

/** Who was to mark copies, marked them apart, or made examples of them. */
const WHO_MARKS = sql`union select person_id from marker join archived_page page on page.id = marker.page_id
  union select person_id from score_apart join archived_page page on page.id = score_apart.page_id
  union select made_by from example join archived_page page on page.id = example.page_id
    join archived_rubric rubric on rubric.id = example.rubric_id`;

/** Everybody who is, or did something, in the class; by name, since whom a school knows keeps the id they have there. */
async function numberPeople(tx: Tx, archived: Archived): Promise<void> {
  const { class: klass, student } = archived;
  const roster =
    student === null
      ? sql`select person_id as id from enrolment where class_id = ${klass}
          union select person_id from group_member join archived_grouping on archived_grouping.id = grouping_id
          union select person_id from allowance join archived_assignment on archived_assignment.id = assignment_id
          union select made_by from allowance join archived_assignment on archived_assignment.id = assignment_id
          union select person_id from class_event where class_id = ${klass}
          union select made_by from note where ${NOTES(archived)}`
      : sql`select ${student}::uuid as id`;
  await sql`insert into archived_person (n, id)
    select row_number() over (order by role, family, given, ${officeOf(klass)}, email, person.id), person.id
    from person
    where person.id in (${roster}
      union select person_id from class_staff where class_id = ${klass} and ${staffOf(klass)} is not null
      union select author_id from step_writer join archived_page page on page.id = page_id
      union select author_id from set_aside join archived_page page on page.id = set_aside.page_id
      union select person_id from event join archived_page page on page.id = event.page_id
      union select person_id from score join archived_score on archived_score.id = score.id
      union select given.person_id from student_scoring given join archived_page page on page.id = given.page_id
        where ${student === null ? sql`true` : OWN_SCORING}
      ${student === null ? WHO_MARKS : sql``}
      union select made_by from attachment join archived_attachment using (id)
      union select made_by from thread join archived_thread using (id)
      union select comment.person_id from comment join thread on thread.id = thread_id
        join archived_thread on archived_thread.id = thread.id
        where ${student === null ? sql`true` : COMMENT_SENT}
      union select person_id from proposal join archived_proposal using (id)
      union select decision.person_id from proposal_decision decision
        join archived_proposal on archived_proposal.id = decision.proposal_id
      union select made_by from assignment join archived_assignment using (id)
      union select made_by from rubric join archived_rubric using (id)
      union select page_member.person_id from page_member join archived_page page on page.id = page_member.page_id)`.execute(
    tx,
  );
}

/** Open and settled notes on what is in an archive: of the class, and of its course as far as who makes it may read them. */
export const NOTES = ({
  class: klass,
  by,
}: Archived) => sql`(note.unit_id in (select id from archived_unit)
  or note.page_id in (select id from page where class_id = ${klass})
  or (note.page_id in (select id from archived_page) or note.rubric_id in (select id from archived_rubric)
    or note.course_id = (select course_id from class where id = ${klass}))
    and exists (select from class where class.id = ${klass} and (class.brought is not null
      or exists (select from course_staff where course_staff.course_id = class.course_id
        and course_staff.person_id = ${by} and course_staff.may in ('own', 'write')))))`;
