import { sql, type Kysely } from 'kysely';

/** A rubric as it stood before each change; where one was moved from. */
const statements = [
  `create table rubric_change (
    rubric_id uuid not null references rubric, version int not null, school_id int not null references school,
    title text not null, body jsonb not null, changed_by uuid not null references person,
    at timestamptz not null default now(), primary key (rubric_id, version))`,
  `alter table rubric add moved_from uuid references course`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of statements) await sql.raw(statement).execute(db);
}
