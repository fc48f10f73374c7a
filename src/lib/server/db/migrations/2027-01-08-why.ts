import { sql, type Kysely } from 'kysely';

/** Why a copy that came again has other points than before. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql.raw(`alter table score add column why text`).execute(db);
}
