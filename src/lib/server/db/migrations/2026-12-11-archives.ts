import { sql, type Kysely } from 'kysely';

/** Archives: made of a class or of one student's work in it, or brought to be opened. */
const statements = [
  `create table archive (
    id uuid primary key default gen_random_uuid(),
    school_id int not null references school,
    kind text not null check (kind in ('whole', 'take-home', 'brought')),
    class_id uuid references class,
    student_id uuid references person,
    made_by uuid not null references person,
    made_at timestamptz not null default now(),
    name text not null,
    total int not null default 0,
    done int not null default 0,
    size bigint not null default 0,
    finished_at timestamptz,
    fault text,
    check (kind = 'brought' or class_id is not null),
    check ((kind = 'take-home') = (student_id is not null)))`,
  `create index on archive (class_id, student_id, made_at)`,
  // Of one that is finished, or that was brought: its bytes, in order.
  `create table archive_piece (
    archive_id uuid not null references archive on delete cascade,
    n int not null,
    bytes bytea not null,
    primary key (archive_id, n))`,
  // Zip archives do not get smaller once more.
  `alter table archive_piece alter bytes set storage external`,
  // Of a class that was opened from an archive: what belonged to the school that it comes from.
  `alter table class add brought jsonb`,
  // Somebody of an archive whom the school does not know: a name, and nobody who signs in.
  `alter table person add name_only boolean not null default false`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of statements) await sql.raw(statement).execute(db);
}
