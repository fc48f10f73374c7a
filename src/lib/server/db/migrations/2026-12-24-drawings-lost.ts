import { sql, type Kysely } from 'kysely';

/** A copy's level counts strokes beside words; of those drawn before, from its next change on. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`update page set level = level || jsonb_build_object('strokes', 0,
      'drawnPeak', jsonb_build_object('version', level -> 'version', 'strokes', 0))
    where level is not null`.execute(db);
}
