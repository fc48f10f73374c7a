import { randomBytes } from 'node:crypto';
import { sql } from 'kysely';
import type { DueTime } from '$core/formats/icalendar';
import { inCupboard, OPEN_CLASS } from '../access/class-state';
import { pagesOf } from '../copy/holders';
import { ownDue } from '../copy/own-due';
import type { Connection } from '../page/page-store';

interface Row {
  assignment: string;
  class: string;
  name: string;
  title: string;
  task: string;
  instructions: string;
  due: Date;
  handed_out_at: Date;
  changed_at: Date;
  page: string | null;
}

const OWN_DUE = ownDue('allowed', 'handed');

const timeOf = (row: Row): DueTime => ({
  uid: `${row.assignment}-${row.class}@uncia`,
  title: row.task,
  classId: row.class,
  class: `${row.name} ${row.title}`,
  instructions: row.instructions,
  due: row.due.getTime(),
  handedOut: row.handed_out_at.getTime(),
  changed: row.changed_at.getTime(),
  to: row.page ? `/work/${row.page}` : `/classes/${row.class}/assignments/${row.assignment}`,
});

/**
 * Everything that is due for a person: in the classes whose staff they are, or of the copies they have, each at their own time.
 * What is withdrawn is not: a calendar program takes the whole feed each time, so it goes from there, too.
 */
export async function readDueTimes(db: Connection, person: string): Promise<DueTime[]> {
  const { rows } = await sql<Row>`
    select handed.assignment_id as assignment, class.id as class, class.name, course.title, task.title as task,
      task.instructions, handed.due_at as due, handed.handed_out_at, handed.changed_at,
      null as page
    from class_staff staff
    join assignment_class handed on handed.class_id = staff.class_id
    join assignment task on task.id = handed.assignment_id
    join class on class.id = handed.class_id join course on course.id = class.course_id
    where staff.person_id = ${person} and handed.due_at is not null and handed.withdrawn_at is null
      and class.archived_at is null
    union all
    (select distinct on (page.assignment_id, page.class_id)
      page.assignment_id, class.id, class.name, course.title, task.title, task.instructions,
      ${OWN_DUE}, handed.handed_out_at, greatest(handed.changed_at, allowed.at),
      page.id
    from page
    join assignment_class handed on handed.assignment_id = page.assignment_id and handed.class_id = page.class_id
    join assignment task on task.id = page.assignment_id
    join class on class.id = page.class_id join course on course.id = class.course_id
    left join lateral (select kind, due_at, at from allowance
      where allowance.assignment_id = page.assignment_id and allowance.person_id = ${person}
      order by id desc limit 1) allowed on true
    where page.id = any(${pagesOf(person)}) and page.kind = 'copy'
      and ${OPEN_CLASS} and page.replaced_at is null and not ${inCupboard('handed.unit_id')}
      and page.away_at is null and handed.withdrawn_at is null and coalesce(allowed.kind, '') <> 'excused'
      and ${OWN_DUE} is not null and page.delivery <> 'to read'
    order by page.assignment_id, page.class_id, page.id)`.execute(db);
  return rows.map(timeOf).sort((a, b) => a.due - b.due);
}

/** The secret in the address of a person's calendar; made when it is asked for first. */
export async function readSecret(
  db: Connection,
  person: { id: string; school_id: number },
): Promise<string> {
  const kept = await db
    .selectFrom('calendar_feed')
    .select('secret')
    .where('person_id', '=', person.id)
    .executeTakeFirst();
  return kept?.secret ?? renewSecret(db, person);
}

/** Another secret: the address before leads nowhere from now on. */
export async function renewSecret(
  db: Connection,
  person: { id: string; school_id: number },
): Promise<string> {
  const secret = randomBytes(24).toString('base64url');
  await db
    .insertInto('calendar_feed')
    .values({ person_id: person.id, school_id: person.school_id, secret })
    .onConflict((conflict) =>
      conflict.column('person_id').doUpdateSet({ secret, made_at: new Date() }),
    )
    .execute();
  return secret;
}

/** Whose calendar it is. */
export const findFeed = (db: Connection, secret: string) =>
  db
    .selectFrom('calendar_feed')
    .innerJoin('person', 'person.id', 'calendar_feed.person_id')
    .select(['person.id', 'given', 'family'])
    .where('secret', '=', secret)
    .executeTakeFirst();
