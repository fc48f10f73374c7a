import { sql, type Kysely } from 'kysely';

/** Who marks which copies, and what two give a copy without seeing each other. */
const statements = [
  `create table marker (
    page_id uuid not null references page,
    person_id uuid not null references person,
    school_id int not null references school,
    primary key (page_id, person_id)
  )`,
  `create table score_apart (
    id bigint generated always as identity primary key,
    school_id int not null references school,
    page_id uuid not null references page,
    person_id uuid not null references person,
    at timestamptz not null default clock_timestamp(),
    points numeric(8,2) check (points >= 0),
    scoring jsonb,
    checked jsonb,
    rubric_points numeric(8,2),
    rubric_most numeric(8,2),
    version int not null
  )`,
  `alter table marking_place add column all_copies boolean not null default false`,
  `create index on score_apart (page_id, person_id, id)`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of statements) await sql.raw(statement).execute(db);
}
