import { sql, type RawBuilder } from 'kysely';

/**
 * Whether something a student says in a thread is for one of the staff: for those who spoke in it; where none of them did,
 * for those who lead the class. The rows in the query: `thread`, and of `class_staff`, `staff`.
 */
export const IS_ASKED: RawBuilder<boolean> = sql<boolean>`case when exists (
  select from comment join person on person.id = comment.person_id
    where comment.thread_id = thread.id and person.role <> 'student')
  then exists (select from comment where comment.thread_id = thread.id and comment.person_id = staff.person_id)
  else staff.kind <> 'marker' end`;
