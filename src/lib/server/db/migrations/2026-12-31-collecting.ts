import { sql, type Kysely } from 'kysely';

/** Files that a teacher collects for an assignment, and where they went. */
const statements = [
  `alter table upload alter column page_id drop not null, add column assignment_id uuid references assignment,
    add column class_id uuid references class,
    add check (page_id is not null or num_nonnulls(assignment_id, class_id) = 2)`,
  `create table collected (
    id uuid primary key default gen_random_uuid(), school_id int not null references school,
    assignment_id uuid not null references assignment, class_id uuid not null references class,
    upload_id uuid not null references upload, path text not null, type text,
    from_id uuid references collected, place int not null default 0,
    made_by uuid not null references person, at timestamptz not null default now(),
    student_id uuid references person, attachment_id uuid references attachment, handed_in boolean not null default false,
    away_at timestamptz, apart text check (apart in ('begun', 'done')), done int not null default 0,
    total int not null default 0, left_out jsonb not null default '[]', cuts jsonb)`,
  `create index on collected (assignment_id, class_id)`,
  `create unique index collected_once on collected (from_id, place) where from_id is not null`,
  `create unique index on collected (upload_id) where from_id is null`,
  // What its teacher took off again was never its students’ to see.
  `alter table attachment add column undone boolean not null default false`,
  // What was taken off one copy may come to another.
  `drop index attached_once`,
  `create unique index attached_once on attachment (upload_id) where upload_id is not null and away_at is null`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of statements) await sql.raw(statement).execute(db);
}
