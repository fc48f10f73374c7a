import { sql, type Kysely } from 'kysely';

/** Comments that a teacher writes again and again, alone or shared with the colleagues of a course. */
const statements = [
  `create table phrase (
    id uuid primary key default gen_random_uuid(),
    school_id int not null references school,
    owner_id uuid not null references person,
    course_id uuid references course,
    text text not null check (text <> ''),
    version int not null default 0,
    made_at timestamptz not null default now(),
    away_at timestamptz
  )`,
  `create index on phrase (owner_id)`,
  `create index on phrase (course_id) where course_id is not null`,
  `create table phrase_use (
    id bigint generated always as identity primary key,
    phrase_id uuid not null references phrase,
    person_id uuid not null references person,
    at timestamptz not null default now()
  )`,
  `create index on phrase_use (phrase_id, person_id)`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of statements) await sql.raw(statement).execute(db);
}
