import { sql, type Kysely } from 'kysely';

/** Files that come in pieces, and what students attach to their copies. */
const statements = [
  `create table upload (
    id uuid primary key default gen_random_uuid(), school_id int not null references school,
    person_id uuid not null references person, page_id uuid not null references page,
    name text not null, size bigint not null check (size > 0), received bigint not null default 0,
    made_at timestamptz not null default now(), finished_at timestamptz, type text,
    check (received <= size))`,
  `create index on upload (page_id)`,
  `create index upload_unfinished on upload (made_at) where finished_at is null`,
  `create table upload_piece (
    upload_id uuid not null references upload on delete cascade, starts bigint not null, bytes bytea not null,
    primary key (upload_id, starts))`,
  `create table attachment (
    id uuid primary key default gen_random_uuid(), school_id int not null references school,
    page_id uuid not null references page, upload_id uuid references upload, url text,
    made_by uuid not null references person, at timestamptz not null default now(), away_at timestamptz,
    found text not null check (found in ('fine', 'cannot be read', 'cannot be opened', 'not looked at yet')),
    check (num_nonnulls(upload_id, url) = 1))`,
  `create index on attachment (page_id)`,
  `create unique index attached_once on attachment (upload_id) where upload_id is not null`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of statements) await sql.raw(statement).execute(db);
}
