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
  // Two people at once cannot make two of what there is one of.
  `create extension if not exists btree_gist`,
  `alter table term add constraint terms_apart
    exclude using gist (school_id with =, daterange(starts, ends, '[]') with &&)`,
  `alter table lesson_slot add constraint slots_apart exclude using gist (class_id with =, weekday with =,
    int4range(extract(epoch from starts)::int, extract(epoch from ends)::int) with &&)`,
  `create unique index one_welcome on page (class_id) where area = 'welcome' and away_at is null`,
  `alter table event disable trigger event_stays`,
  `delete from event later using event earlier where later.kind = 'opened' and earlier.kind = 'opened'
    and later.page_id = earlier.page_id and later.person_id = earlier.person_id and later.id > earlier.id`,
  `alter table event enable trigger event_stays`,
  `create unique index opened_once on event (page_id, person_id) where kind = 'opened'`,
  `create index on assignment_original (page_id)`,
  `create index on assignment (made_by, made_at)`,
  `create index on assignment_class (unit_id)`,
  // Saved against the version that was read.
  `alter table rubric add version int not null default 0, add saved_by uuid references person`,
  `alter table hand_out add version int not null default 0`,
  // Mail: who is being written to now, how often it failed, and why.
  `alter table person add mail_claimed_at timestamptz, add mail_failures int not null default 0,
    add mail_fault text not null default ''`,
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
