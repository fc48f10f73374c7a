import { sql, type Kysely } from 'kysely';

/** Staff say whether they are told of work that is handed in. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`alter table person add hears_hand_ins boolean not null default true`.execute(db);
}
