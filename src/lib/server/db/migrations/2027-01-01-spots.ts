import { sql, type Kysely } from 'kysely';

/** Comments may be tied to a place on what is attached. */
const statements = [
  `alter table thread add column attachment_id uuid references attachment, add column spot jsonb,
    add check ((attachment_id is null) = (spot is null))`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of statements) await sql.raw(statement).execute(db);
}
