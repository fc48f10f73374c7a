import { sql } from 'kysely';

/**
 * When a copy is due for its student, who may have been allowed another time. Whoever joined the class after it was due, and
 * after it was handed out, was not there to be late. To be selected with `page` and the tables of these names: both have a
 * `due_at`, `handed` a `handed_out_at`. The enrolment is looked up, not joined: joined, the planner reads it whole.
 */
export function ownDue(allowed: string, handed: string) {
  const [due, out] = [sql.ref(`${handed}.due_at`), sql.ref(`${handed}.handed_out_at`)];
  return sql<Date | null>`coalesce(${sql.ref(`${allowed}.due_at`)}, case when exists (
    select from enrolment joined where joined.class_id = page.class_id and joined.person_id = page.student_id
      and joined.joined_at > greatest(${due}, ${out})) then null else ${due} end)`;
}
