import { sql } from 'kysely';

/**
 * How a class stands for its students: they see nothing of it yet; it is theirs to work in; it is archived and they read
 * what is their own; it is archived and they see nothing any more.
 */
export type ClassState = 'closed' | 'open' | 'to read' | 'sealed';

/** Whether a class is archived: nothing in it changes. */
export const isArchived = (state: ClassState | null): boolean =>
  state === 'to read' || state === 'sealed';

/** To be selected with the table `class`. The last day for reading counts whole, on the school's clock. */
export const CLASS_STATE = sql<ClassState>`case
  when class.archived_at is null then case when class.opened_at is null then 'closed' else 'open' end
  when class.opened_at is not null and class.read_until >=
    (now() at time zone (select time_zone from school where school.id = class.school_id))::date then 'to read'
  else 'sealed' end`;

/** Whether students work in a class: it is open, and not archived. */
export const OPEN_CLASS = sql<boolean>`(class.opened_at is not null and class.archived_at is null)`;

/** A unit that lies in the cupboard, out of students' sight, while its class is in use. `unit`: a column with its id. */
export const inCupboard = (unit: string) => sql<boolean>`exists (
  select from unit stored join class holder on holder.id = stored.class_id
  where stored.id = ${sql.ref(unit)} and stored.stored_at is not null and holder.archived_at is null)`;
