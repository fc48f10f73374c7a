import { sql, type Kysely } from 'kysely';

/** Rights, load and doors: what the ground needs that the first tables did not have. */
const statements = [
  `alter table person add seal text not null
    default replace(gen_random_uuid()::text || gen_random_uuid()::text, '-', '')`,
  // Where a page came into students' sight, its history for them begins there.
  `alter table page add seen_from int not null default 0`,
  `alter table page add moved_from uuid references course`,
  `create index on page (moved_from) where moved_from is not null`,
  // Accounts: who made them, and who asked whom into which class.
  `alter table person add made_by uuid references person`,
  `create table join_request (
    class_id uuid not null references class, person_id uuid not null references person,
    school_id int not null references school, asked_by uuid not null references person,
    asked_at timestamptz not null default now(), answered_at timestamptz, accepted boolean,
    primary key (class_id, person_id))`,
  `create index on join_request (person_id) where answered_at is null`,
  // Doors.
  `alter table person add disabled_at timestamptz`,
  `alter table session add last_at timestamptz not null default now(), add browser text not null default ''`,
  `create index on session (person_id)`,
  `create table known_browser (
    hash text not null, person_id uuid not null references person, school_id int not null references school,
    made_at timestamptz not null default now(), primary key (hash, person_id))`,
  `drop table sign_in_throttle`,
  // As the limiting library wants it: `expire` in epoch milliseconds.
  `create table rate_limit (key varchar(255) primary key, points int not null default 0, expire bigint)`,
  `alter table set_up_link add made_at timestamptz not null default now()`,
  `create table password_link (
    hash text primary key, person_id uuid not null references person, school_id int not null references school,
    made_at timestamptz not null default now(), used_at timestamptz)`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of statements) await sql.raw(statement).execute(db);
}
