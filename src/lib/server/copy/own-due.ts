import { sql } from 'kysely';

/**
 * When a copy is due for its student, who may have been allowed another time. Whoever joined the class after it was due, and
 * after it was handed out, was not there to be late. To be selected with the tables of these names: `allowed` and `handed`
 * with `due_at`, `joined` the student's enrolment.
 */
export const ownDue = (allowed: string, handed: string, joined: string) =>
  sql<Date | null>`coalesce(${sql.ref(`${allowed}.due_at`)}, case when ${sql.ref(`${joined}.joined_at`)}
    > greatest(${sql.ref(`${handed}.due_at`)}, ${sql.ref(`${handed}.handed_out_at`)})
    then null else ${sql.ref(`${handed}.due_at`)} end)`;
