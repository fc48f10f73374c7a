import { sql, type Kysely } from 'kysely';

/** Curriculum codes, and what carries them: pages, criteria of rubrics, assignments. */
const statements = [
  `create table code_set (
    id uuid primary key default gen_random_uuid(), school_id int not null references school,
    title text not null, made_by uuid not null references person, made_at timestamptz not null default now())`,
  `create table code (
    id uuid primary key default gen_random_uuid(), school_id int not null references school,
    set_id uuid not null references code_set, code text not null, statement text not null,
    parent_id uuid references code, place int not null)`,
  `create index on code (set_id)`,
  `create table code_tag (
    code_id uuid not null references code, school_id int not null references school,
    page_id uuid references page, rubric_id uuid references rubric, criterion text,
    assignment_id uuid references assignment,
    check (num_nonnulls(page_id, rubric_id, assignment_id) = 1 and (rubric_id is null) = (criterion is null)),
    unique nulls not distinct (code_id, page_id, rubric_id, criterion, assignment_id))`,
  `create index on code_tag (page_id)`,
  `create index on code_tag (rubric_id)`,
  `create index on code_tag (assignment_id)`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of statements) await sql.raw(statement).execute(db);
}
