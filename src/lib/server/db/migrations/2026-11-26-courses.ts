import { sql, type Kysely } from 'kysely';

/** Courses with units, readings, rubrics, codes and notes; classes that are built, opened and told; groups; rosters. */
const statements = [
  `alter table course_staff add may text not null default 'own' check (may in ('own', 'write', 'use'))`,
  `alter table course_staff alter may drop default`,

  `alter table unit alter class_id drop not null, add course_id uuid references course,
    add from_id uuid references unit, add away_at timestamptz,
    add check (num_nonnulls(class_id, course_id) = 1)`,
  `create index on unit (course_id)`,

  `alter table class add opens_at timestamptz, add about text not null default ''`,
  `create table class_build (
    id uuid primary key default gen_random_uuid(), school_id int not null references school,
    class_id uuid not null references class, made_by uuid not null references person,
    made_at timestamptz not null default now(), wish jsonb not null,
    total int not null, done int not null default 0, finished_at timestamptz, fault text)`,
  `create index on class_build (class_id)`,

  `alter table page drop constraint page_kind_check, drop constraint page_check`,
  `alter table page
    add unit_id uuid references unit, add place int not null default 0,
    add area text check (area in ('shelf', 'worktable', 'cupboard', 'welcome')),
    add from_id uuid references page, add from_version int, add adapted boolean not null default false,
    add build_id uuid references class_build, add away_at timestamptz,
    add constraint page_kind_check check (kind in ('original', 'reading', 'copy', 'class page')),
    add constraint page_check check (case kind
      when 'copy' then source_id is not null and source_version is not null and assignment_id is not null
        and class_id is not null and student_id is not null
      when 'class page' then class_id is not null and area is not null and source_id is null and student_id is null
      else course_id is not null and source_id is null and student_id is null end),
    add constraint adapted_from check (not adapted or (kind = 'original' and from_id is not null)),
    add unique (build_id, from_id)`,
  `create index on page (unit_id)`,
  `create index on page (from_id)`,

  `create table rubric (
    id uuid primary key default gen_random_uuid(), school_id int not null references school,
    course_id uuid not null references course, unit_id uuid references unit, title text not null,
    body jsonb not null, place int not null default 0, made_by uuid not null references person,
    made_at timestamptz not null default now(), away_at timestamptz)`,
  `create index on rubric (course_id)`,

  `create table note (
    id uuid primary key default gen_random_uuid(), school_id int not null references school,
    course_id uuid references course, unit_id uuid references unit, page_id uuid references page,
    rubric_id uuid references rubric, text text not null, made_by uuid not null references person,
    made_at timestamptz not null default now(), settled_at timestamptz,
    check (num_nonnulls(course_id, unit_id, page_id, rubric_id) = 1))`,
  ...['course_id', 'unit_id', 'page_id', 'rubric_id'].map(
    (column) => `create index on note (${column})`,
  ),

  `create table message (
    id uuid primary key default gen_random_uuid(), school_id int not null references school,
    person_id uuid not null references person, at timestamptz not null default clock_timestamp(),
    subject text not null, text text not null, link text not null, read_at timestamptz,
    cause text not null, unique (person_id, cause))`,

  `create table grouping (
    id uuid primary key default gen_random_uuid(), school_id int not null references school,
    class_id uuid not null references class, name text not null, unique (class_id, name))`,
  `create table grouping_group (
    id uuid primary key default gen_random_uuid(), school_id int not null references school,
    grouping_id uuid not null references grouping on delete cascade, name text not null, place int not null)`,
  `create index on grouping_group (grouping_id)`,
  `create table group_member (
    group_id uuid not null references grouping_group on delete cascade, grouping_id uuid not null,
    school_id int not null references school, person_id uuid not null references person,
    primary key (grouping_id, person_id))`,
  `create index on group_member (group_id)`,

  `create table roster_change (
    id uuid primary key default gen_random_uuid(), school_id int not null references school,
    class_id uuid not null references class, made_by uuid not null references person,
    made_at timestamptz not null default now(), source text not null, lines jsonb not null,
    undone_at timestamptz)`,
  `create index on roster_change (class_id)`,
  `create table office_map (
    school_id int not null references school, kind text not null check (kind in ('class', 'person')),
    sourced_id text not null, class_id uuid references class, person_id uuid references person,
    primary key (school_id, kind, sourced_id), check (num_nonnulls(class_id, person_id) = 1))`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of statements) await sql.raw(statement).execute(db);
}
