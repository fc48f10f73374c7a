import { sql, type Kysely } from 'kysely';

/**
 * What was taken away and came back: a copy, one that was replaced, an assignment in a class, a student of a class. A row says
 * in a column since when it is gone; from when to when it was before is kept here, so that a board can be looked at as it
 * stood. Nothing is known of what came back earlier than this.
 */
const keeps = (table: string, kind: string, column: string, of: string, within: string) => [
  `create function keep_absence_of_${kind}() returns trigger language plpgsql as $$ begin
    insert into absence (kind, of_id, in_id, school_id, from_at, to_at)
    values ('${kind}', old.${of}, old.${within}, old.school_id, old.${column}, greatest(now(), old.${column}));
    return null;
  end $$`,
  `create trigger ${table}_keeps_absence_of_${kind} after update of ${column} on ${table} for each row
    when (old.${column} is not null and new.${column} is distinct from old.${column})
    execute function keep_absence_of_${kind}()`,
];
const statements = [
  `create table absence (
    kind text not null check (kind in ('removed', 'replaced', 'withdrawn', 'left')),
    of_id uuid not null, in_id uuid not null, school_id int not null references school,
    from_at timestamptz not null, to_at timestamptz not null)`,
  `create index absence_by_thing on absence (of_id, in_id)`,
  ...keeps('page', 'removed', 'away_at', 'id', 'id'),
  ...keeps('page', 'replaced', 'replaced_at', 'id', 'id'),
  ...keeps('assignment_class', 'withdrawn', 'withdrawn_at', 'assignment_id', 'class_id'),
  ...keeps('enrolment', 'left', 'left_at', 'person_id', 'class_id'),
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of statements) await sql.raw(statement).execute(db);
}
