import { sql, type Kysely } from 'kysely';

/** Stamps: a thread may be one, and teachers have their own. */
const statements = [
  `create table stamp (
    id uuid primary key default gen_random_uuid(),
    school_id int not null references school,
    owner_id uuid not null references person,
    word text not null check (word <> ''),
    picture bytea not null,
    made_at timestamptz not null default now(),
    away_at timestamptz
  )`,
  `create index on stamp (owner_id)`,
  `alter table thread add column stamp jsonb`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of statements) await sql.raw(statement).execute(db);
}
