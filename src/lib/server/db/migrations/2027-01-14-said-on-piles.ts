import { sql, type Kysely } from 'kysely';

/** Comments that were said on a pile of answers know of which part, and in which words before names were filled in. */
const statements = [`alter table comment add column pile jsonb`];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of statements) await sql.raw(statement).execute(db);
}
