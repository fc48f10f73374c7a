import { sql, type Kysely } from 'kysely';

/** A rubric that came with an assignment from another course knows where from: it comes once. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`alter table rubric add from_id uuid references rubric`.execute(db);
}
