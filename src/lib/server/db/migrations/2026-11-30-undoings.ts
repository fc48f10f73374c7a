import { sql, type Kysely } from 'kysely';

/** Which change of an assignment another one undid. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`alter table assignment_change add undoes uuid references assignment_change (id)`.execute(
    db,
  );
}
