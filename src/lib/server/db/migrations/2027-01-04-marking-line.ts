import { sql, type Kysely } from 'kysely';

/** Where somebody is in the line of an assignment's copies in a class, and how they go through it. */
const statements = [
  `create table marking_place (
    person_id uuid not null references person,
    assignment_id uuid not null references assignment,
    class_id uuid not null references class,
    school_id int not null references school,
    page_id uuid not null references page,
    line_order text not null check (line_order in ('waiting', 'name', 'group')),
    unmarked_only boolean not null,
    primary key (person_id, assignment_id, class_id)
  )`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of statements) await sql.raw(statement).execute(db);
}
