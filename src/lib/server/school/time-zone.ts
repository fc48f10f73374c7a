import type { Grant } from '../access/grant';
import type { Database } from '../db/connect';

/** The zone of the school's clock, by its tz database name. */
export async function readTimeZone(db: Database, school: number): Promise<string> {
  const row = await db
    .selectFrom('school')
    .select('time_zone')
    .where('id', '=', school)
    .executeTakeFirstOrThrow();
  return row.time_zone;
}

export const setTimeZone = (
  db: Database,
  { person }: Grant<'manage the school'>,
  time_zone: string,
): Promise<unknown> =>
  db.updateTable('school').set({ time_zone }).where('id', '=', person.school_id).execute();
