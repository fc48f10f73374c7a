import { sql, type Kysely } from 'kysely';

/**
 * A gap of any cause is accepted, and that can be undone. Work that was written elsewhere is moved to the copy that it belongs
 * to: such a page begins as its own first version, not as the original that it stands for.
 */
const statements = [
  `alter table event drop constraint event_kind_check`,
  `update event set kind = 'gap accepted' where kind = 'loss accepted'`,
  `alter table event add constraint event_kind_check check (kind in ('opened', 'handed in', 'taken back', 'said done',
    'took done back', 'looked', 'handed back', 'put back', 'named', 'gap accepted', 'gap opened'))`,
  `alter table page drop constraint page_check, add constraint page_check check (case kind
      when 'copy' then source_id is not null and assignment_id is not null
        and class_id is not null and for_id is not null and delivery is not null
        and num_nonnulls(student_id, group_name) = 1
      when 'class page' then class_id is not null and area is not null and source_id is null and student_id is null
      when 'own page' then class_id is not null and student_id is not null and source_id is null
      else course_id is not null and source_id is null and student_id is null end)`,
  `create table moved_work (
    id uuid primary key default gen_random_uuid(), school_id int not null references school,
    page_id uuid not null references page, blank_id uuid not null references page, cloned boolean not null,
    was jsonb not null, made_by uuid not null references person, at timestamptz not null default now(),
    undone_at timestamptz)`,
  `create index on moved_work (page_id)`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of statements) await sql.raw(statement).execute(db);
}
