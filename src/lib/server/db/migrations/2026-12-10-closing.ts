import { sql, type Kysely } from 'kysely';

/** The end of a term: classes are archived, units lie in the cupboard. */
const statements = [
  `alter table class add archived_at timestamptz, add read_until date`,
  `alter table unit add stored_at timestamptz`,
  // Of all pages of an archived class, so that whoever locks one to write sees it.
  `alter table page add sealed boolean not null default false`,
  `create table class_event (
    id bigint generated always as identity primary key,
    school_id int not null references school,
    class_id uuid not null references class,
    person_id uuid not null references person,
    at timestamptz not null default now(),
    kind text not null check (kind in ('archived', 'opened again')))`,
  `create index on class_event (class_id)`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of statements) await sql.raw(statement).execute(db);
}
