import { sql, type Kysely } from 'kysely';

/** A list of codes is brought up to date: what it names no more is away; a list is removed and comes back. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`alter table code_set add away_at timestamptz`.execute(db);
  await sql`alter table code add away_at timestamptz`.execute(db);
}
