import { sql, type Kysely } from 'kysely';

/** Copies, as they stood in a version, that are examples of a step of a rubric. */
const statements = [
  `create table example (
    id uuid primary key default gen_random_uuid(),
    school_id int not null references school,
    rubric_id uuid not null references rubric,
    criterion text not null,
    points text not null,
    page_id uuid not null references page,
    version int not null,
    made_by uuid not null references person,
    made_at timestamptz not null default now(),
    away_at timestamptz
  )`,
  `create unique index on example (rubric_id, criterion, page_id)`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of statements) await sql.raw(statement).execute(db);
}
