import { sql, type Kysely } from 'kysely';

/** Four deliveries, shared copies, drafts, withdrawing, changes after handing out, allowances, own pages, calendars, mail. */
const statements = [
  `alter table assignment_original drop constraint assignment_original_delivery_check,
    add check (delivery in ('to read', 'one for all', 'one per group', 'one each')), add instead_of uuid`,
  `alter table assignment add wish jsonb, add category text not null default '', add rubric_id uuid references rubric,
    add form text not null default 'pages' check (form in ('pages', 'done or not')),
    add late text not null default 'taken' check (late in ('taken', 'not taken')), add reminder int`,
  `alter table assignment_class add withdrawn_at timestamptz, add changed_at timestamptz not null default now()`,
  `alter table class add join_rule text not null default 'open' check (join_rule in ('open', 'coming', 'ask'))`,

  `alter table page drop constraint page_kind_check, drop constraint page_check,
    drop constraint page_assignment_id_source_id_student_id_key, drop constraint page_assignment_id_source_id_fkey`,
  `alter table page add for_id uuid, add group_name text, add replaced_at timestamptz,
    add delivery text check (delivery in ('to read', 'one for all', 'one per group', 'one each'))`,
  `update page set for_id = source_id, delivery = 'one each' where kind = 'copy'`,
  `alter table page
    add constraint page_kind_check check (kind in ('original', 'reading', 'copy', 'class page', 'own page')),
    add constraint page_check check (case kind
      when 'copy' then source_id is not null and source_version is not null and assignment_id is not null
        and class_id is not null and for_id is not null and delivery is not null
        and num_nonnulls(student_id, group_name) = 1
      when 'class page' then class_id is not null and area is not null and source_id is null and student_id is null
      when 'own page' then class_id is not null and student_id is not null and source_id is null
      else course_id is not null and source_id is null and student_id is null end),
    add foreign key (assignment_id, for_id) references assignment_original`,
  // Never two copies that one is to write in: of a student, or of a group.
  `create unique index copy_of_student on page (assignment_id, for_id, student_id)
    where student_id is not null and replaced_at is null and away_at is null`,
  `create unique index copy_of_group on page (assignment_id, for_id, class_id, group_name)
    where group_name is not null and replaced_at is null and away_at is null`,
  `create index on page (assignment_id)`,
  `create table page_member (
    page_id uuid not null references page, person_id uuid not null references person,
    school_id int not null references school, primary key (page_id, person_id))`,
  `create index on page_member (person_id)`,

  `create table hand_out (
    id uuid primary key default gen_random_uuid(), school_id int not null references school,
    class_id uuid references class, made_by uuid not null references person,
    name text, wish jsonb not null, changed_at timestamptz not null default now(), changed_by uuid not null references person,
    goes_out_at timestamptz, handed_out_at timestamptz, fault text, away_at timestamptz,
    check (num_nonnulls(class_id, name) = 1))`,
  `create index on hand_out (class_id)`,
  `create index on hand_out (made_by)`,
  `create table assignment_change (
    id uuid primary key default gen_random_uuid(), school_id int not null references school,
    assignment_id uuid not null references assignment, made_by uuid not null references person,
    made_at timestamptz not null default clock_timestamp(), was jsonb not null, became jsonb not null, says jsonb not null,
    undone_at timestamptz)`,
  `create index on assignment_change (assignment_id)`,
  `create table allowance (
    id bigint generated always as identity primary key, school_id int not null references school,
    assignment_id uuid not null references assignment, person_id uuid not null references person,
    kind text not null check (kind in ('extension', 'excused', 'as for all')), due_at timestamptz,
    note text not null default '', made_by uuid not null references person,
    at timestamptz not null default clock_timestamp(), check ((kind = 'extension') = (due_at is not null)))`,
  `create index on allowance (assignment_id, person_id)`,
  `create trigger allowance_stays before update or delete on allowance
    for each row execute function facts_stay()`,

  `create table calendar_feed (
    person_id uuid primary key references person, school_id int not null references school,
    secret text not null unique, made_at timestamptz not null default now())`,
  // E-mail is gathered, and waits until the morning: no telephone buzzes at night.
  `alter table person add email text not null default '',
    add mails text not null default 'gathered' check (mails in ('gathered', 'daily', 'never'))`,
  `alter table school add quiet_from time not null default '19:00', add quiet_to time not null default '07:00'`,
  `alter table message add mailed_at timestamptz`,
  `create index message_to_mail on message (person_id) where mailed_at is null`,
  // What of a student's own pages is found is hers; her teachers find it, too.
  `create or replace function find_page() returns trigger language plpgsql as $$
    begin
      perform find_put(jsonb_build_array(jsonb_build_object('kind', 'page', 'id', new.id::text,
        'school_id', new.school_id, 'class_id', new.class_id, 'course_id', new.course_id, 'title', new.title,
        'owner_id', new.student_id, 'page_version', -1, 'body', coalesce(
          (select body from find_entry where kind = 'page' and id = new.id::text), ''))));
      return null;
    end $$`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of statements) await sql.raw(statement).execute(db);
}
