import { sql, type Kysely } from 'kysely';

/** Answers that somebody took out of their pile, to be scored alone. */
const statements = [
  `create table answer_apart (
    page_id uuid not null references page,
    part_id text not null,
    school_id int not null references school,
    primary key (page_id, part_id)
  )`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of statements) await sql.raw(statement).execute(db);
}
