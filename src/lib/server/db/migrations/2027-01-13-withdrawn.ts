import { sql, type Kysely } from 'kysely';

/** Comments that whoever wrote them withdrew before their student had them. */
const statements = [
  `create table comment_withdrawal (
    comment_id bigint primary key references comment,
    school_id int not null references school,
    at timestamptz not null default now()
  )`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of statements) await sql.raw(statement).execute(db);
}
