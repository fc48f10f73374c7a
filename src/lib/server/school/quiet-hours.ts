import { z } from 'zod';
import type { Grant } from '../access/grant';
import type { Database } from '../db/connect';

const clock = z
  .string()
  .regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'Quiet hours go from one time of the day to another.');
/** No e-mail goes out between these times of the school's clock; none are quiet when both are the same. */
export const QuietHours = z.object({ from: clock, to: clock });
type QuietHours = z.infer<typeof QuietHours>;

export async function readQuietHours(db: Database, school: number): Promise<QuietHours> {
  const { quiet_from, quiet_to } = await db
    .selectFrom('school')
    .select(['quiet_from', 'quiet_to'])
    .where('id', '=', school)
    .executeTakeFirstOrThrow();
  return { from: quiet_from, to: quiet_to };
}

export const setQuietHours = (
  db: Database,
  { person }: Grant<'manage the school'>,
  { from, to }: QuietHours,
) =>
  db
    .updateTable('school')
    .set({ quiet_from: from, quiet_to: to })
    .where('id', '=', person.school_id)
    .execute();
