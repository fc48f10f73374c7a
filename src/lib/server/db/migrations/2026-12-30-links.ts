import { sql, type Kysely } from 'kysely';

/** Documents that are attached are shown as pages; of a link what stood there is kept when it was handed in. */
const statements = [
  `alter table attachment add column shown jsonb`,
  `create table link_snapshot (
    id uuid primary key default gen_random_uuid(), school_id int not null references school,
    attachment_id uuid not null references attachment, upload_id uuid not null references upload,
    shown jsonb, at timestamptz not null default now())`,
  `create index on link_snapshot (attachment_id)`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of statements) await sql.raw(statement).execute(db);
}
