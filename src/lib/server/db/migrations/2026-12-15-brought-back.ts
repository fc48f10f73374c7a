import { sql, type Kysely } from 'kysely';

/** A course that its owner removed comes back with all that is in it; a unit, with what stood in it. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`alter table course add away_at timestamptz`.execute(db);
  await sql`alter table unit add held uuid[] not null default '{}'`.execute(db);
}
