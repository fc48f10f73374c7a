import { sql, type Kysely } from 'kysely';

/** Copies that are dealt to classmates, to be scored by the rubric of the assignment, and what is withheld of what they give. */
const statements = [
  `alter table assignment_class add column classmates_named boolean not null default false`,
  `create table reading (
    page_id uuid not null references page,
    by_page_id uuid not null references page,
    school_id int not null references school,
    version int not null,
    primary key (page_id, by_page_id),
    check (page_id <> by_page_id)
  )`,
  `create index on reading (by_page_id)`,
  `create table withheld_scoring (
    page_id uuid not null references page,
    by_page_id uuid not null references page,
    school_id int not null references school,
    primary key (page_id, by_page_id)
  )`,
  `alter table student_scoring add column by_page_id uuid references page`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of statements) await sql.raw(statement).execute(db);
}
