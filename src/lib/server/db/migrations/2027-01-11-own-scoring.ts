import { sql, type Kysely } from 'kysely';

/** What students score their own copies with, by the rubric of the assignment, where that is asked of them. */
const statements = [
  `alter table assignment_class add column own_scoring boolean not null default false`,
  `create table student_scoring (
    id bigint generated always as identity primary key,
    school_id int not null references school,
    page_id uuid not null references page,
    person_id uuid not null references person,
    at timestamptz not null default clock_timestamp(),
    version int not null,
    scoring jsonb not null
  )`,
  `create index on student_scoring (page_id, id)`,
  `create trigger student_scoring_stays before update or delete on student_scoring
    for each row execute function facts_stay()`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of statements) await sql.raw(statement).execute(db);
}
