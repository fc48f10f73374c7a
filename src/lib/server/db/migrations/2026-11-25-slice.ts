import { sql, type Kysely } from 'kysely';

/** The tables of the first slice. `step`, `event`, `score` and `comment` are only ever added to. */
const statements = [
  `create table school (
    id int generated always as identity primary key, name text not null, time_zone text not null)`,
  `create table term (
    id uuid primary key default gen_random_uuid(), school_id int not null references school,
    name text not null, starts date not null, ends date not null, check (starts <= ends))`,
  `create table holiday (
    id uuid primary key default gen_random_uuid(), school_id int not null references school,
    name text not null, starts date not null, ends date not null, check (starts <= ends))`,
  `create table person (
    id uuid primary key default gen_random_uuid(), school_id int not null references school,
    role text not null check (role in ('teacher', 'student', 'office')),
    given text not null, family text not null, called text not null default '',
    sign_in_name text not null unique check (sign_in_name = lower(sign_in_name)),
    password_hash text not null, demo boolean not null default false)`,
  `create table session (
    id text primary key, school_id int not null references school,
    person_id uuid not null references person, made_at timestamptz not null default now(),
    expires_at timestamptz not null)`,
  `create index on session (expires_at)`,
  `create table sign_in_throttle (
    key text primary key, failures int not null, last_at timestamptz not null)`,
  `create table set_up_link (
    hash text primary key, school_id int not null references school, used_at timestamptz)`,
  `create table course (
    id uuid primary key default gen_random_uuid(), school_id int not null references school,
    title text not null)`,
  `create table course_staff (
    course_id uuid not null references course, school_id int not null references school,
    person_id uuid not null references person, primary key (course_id, person_id))`,
  `create index on course_staff (person_id)`,
  `create table class (
    id uuid primary key default gen_random_uuid(), school_id int not null references school,
    course_id uuid not null references course, term_id uuid not null references term,
    name text not null, opened_at timestamptz)`,
  `create table class_staff (
    class_id uuid not null references class, school_id int not null references school,
    person_id uuid not null references person,
    kind text not null check (kind in ('lead', 'co-teacher', 'marker')),
    primary key (class_id, person_id))`,
  `create index on class_staff (person_id)`,
  `create table enrolment (
    class_id uuid not null references class, school_id int not null references school,
    person_id uuid not null references person, joined_at timestamptz not null,
    left_at timestamptz, primary key (class_id, person_id))`,
  `create index on enrolment (person_id)`,
  `create table lesson_slot (
    id uuid primary key default gen_random_uuid(), school_id int not null references school,
    class_id uuid not null references class, weekday int not null check (weekday between 1 and 7),
    starts time not null, ends time not null, check (starts < ends))`,
  `create index on lesson_slot (class_id)`,
  `create table unit (
    id uuid primary key default gen_random_uuid(), school_id int not null references school,
    class_id uuid not null references class, title text not null, place int not null)`,
  `create index on unit (class_id)`,
  `create table assignment (
    id uuid primary key default gen_random_uuid(), school_id int not null references school,
    title text not null, instructions text not null, points numeric(8,2) check (points >= 0),
    guarded boolean not null, made_by uuid not null references person,
    made_at timestamptz not null default now())`,
  `create table assignment_class (
    assignment_id uuid not null references assignment, school_id int not null references school,
    class_id uuid not null references class, unit_id uuid references unit,
    handed_out_at timestamptz not null, due_at timestamptz, primary key (assignment_id, class_id))`,
  `create index on assignment_class (class_id)`,
  `create table assignment_original (
    assignment_id uuid not null references assignment, school_id int not null references school,
    page_id uuid not null, version int not null,
    delivery text not null check (delivery in ('one each')), primary key (assignment_id, page_id))`,
  `create table page (
    id uuid primary key default gen_random_uuid(), school_id int not null,
    kind text not null check (kind in ('original', 'copy')), title text not null,
    course_id uuid references course,
    source_id uuid, source_version int, assignment_id uuid, class_id uuid,
    student_id uuid,
    guarded boolean not null default false, version int not null default 0,
    done_mask text, words int, written_at timestamptz,
    with_teacher boolean not null default false, threads int not null default 0,
    made_at timestamptz not null default now(),
    unique (assignment_id, source_id, student_id),
    foreign key (assignment_id, source_id) references assignment_original,
    foreign key (class_id, student_id) references enrolment,
    check (case kind
      when 'original' then course_id is not null and source_id is null and student_id is null
      else source_id is not null and source_version is not null and assignment_id is not null
        and class_id is not null and student_id is not null end))`,
  `create index on page (class_id)`,
  `create index on page (student_id)`,
  `create index on page (course_id)`,
  `alter table assignment_original add foreign key (page_id) references page`,
  `create table step (
    page_id uuid not null references page, version int not null, school_id int not null,
    author_id uuid not null references person, at timestamptz not null, client text not null,
    client_no int not null, body jsonb not null, primary key (page_id, version))`,
  `create unique index step_once on step (page_id, client, client_no)`,
  `create table set_aside (
    page_id uuid not null references page, client text not null, client_no int not null,
    school_id int not null, author_id uuid not null references person, at timestamptz not null,
    base_version int not null, body jsonb not null, words text not null,
    primary key (page_id, client, client_no))`,
  `create table set_aside_settled (
    page_id uuid not null, client text not null, client_no int not null, school_id int not null,
    at timestamptz not null default now(), primary key (page_id, client, client_no),
    foreign key (page_id, client, client_no) references set_aside)`,
  `create table snapshot (
    page_id uuid not null references page, version int not null, school_id int not null,
    at timestamptz not null, doc jsonb not null, authorship jsonb not null, parts jsonb not null,
    primary key (page_id, version))`,
  `create table answer_key (
    page_id uuid not null references page, part_id text not null, school_id int not null,
    body jsonb not null, primary key (page_id, part_id))`,
  `create table event (
    id bigint generated always as identity primary key, school_id int not null,
    page_id uuid not null references page, person_id uuid not null references person,
    at timestamptz not null default clock_timestamp(),
    kind text not null check (kind in ('opened', 'handed in', 'taken back', 'looked', 'handed back')),
    version int not null, note text not null default '')`,
  `create index on event (page_id)`,
  `create table score (
    id bigint generated always as identity primary key, school_id int not null,
    page_id uuid not null references page, person_id uuid not null references person,
    at timestamptz not null default clock_timestamp(),
    points numeric(8,2) not null check (points >= 0), version int not null)`,
  `create index on score (page_id)`,
  `create table thread (
    id uuid primary key default gen_random_uuid(), school_id int not null,
    page_id uuid not null references page, made_by uuid not null references person,
    made_at timestamptz not null default clock_timestamp(), quote text not null,
    made_version int not null, made_from int, made_to int, at_from int, at_to int)`,
  `create index on thread (page_id)`,
  `create table comment (
    id bigint generated always as identity primary key, school_id int not null,
    thread_id uuid not null references thread, person_id uuid not null references person,
    at timestamptz not null default clock_timestamp(),
    kind text not null check (kind in ('said', 'settled', 'opened again')), text text not null)`,
  `create index on comment (thread_id)`,
  `create table file (
    hash text not null, school_id int not null references school, type text not null,
    bytes bytea not null, made_by uuid not null references person,
    made_at timestamptz not null default now(), primary key (hash, school_id))`,
  // Facts stay: the log and the record refuse to be rewritten, whoever asks.
  `create function facts_stay() returns trigger language plpgsql as
    $$ begin raise exception 'rows of % are only ever added', tg_table_name; end $$`,
  ...['step', 'event', 'score', 'comment', 'set_aside'].map(
    (table) => `create trigger ${table}_stays before update or delete on ${table}
      for each row execute function facts_stay()`,
  ),
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of statements) await sql.raw(statement).execute(db);
}
