import { sql, type Kysely } from 'kysely';

/** Groups that are deleted can be restored, and leave their name to others. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`alter table grouping add away_at timestamptz`.execute(db);
  await sql`alter table grouping drop constraint grouping_class_id_name_key`.execute(db);
  await sql`create unique index on grouping (class_id, name) where away_at is null`.execute(db);
}
