import { z } from 'zod';
import type { Grant } from '../access/grant';
import type { Database } from '../db/connect';
import { Refusal } from '../page/refusal';

/** A year ahead there is nothing to be put off to; so many lines nobody has. */
const [LONGEST, MOST] = [366 * 86_400_000, 1000];

/** A line of the desk, as `lineKey` says, and until when it is put off: epoch milliseconds, or null for not any more. */
export const PutOff = z.strictObject({
  line: z.string().min(1).max(200),
  until: z.number().int().nullable(),
});

/** Puts a line of somebody's own desk off, or takes it back. @throws Refusal for a time that has passed, or is years ahead */
export async function putOff(
  db: Database,
  { person }: Grant<'see own desk'>,
  { line, until }: z.infer<typeof PutOff>,
  now: number,
): Promise<void> {
  const mine = db.deleteFrom('put_off').where('person_id', '=', person.id);
  await mine.where('until_at', '<=', new Date(now)).execute();
  if (until === null) {
    await mine.where('line', '=', line).execute();
    return;
  }
  if (until <= now) throw new Refusal(400, 'This time has passed. Choose a later one.');
  if (until > now + LONGEST)
    throw new Refusal(400, 'This is more than a year ahead. Choose an earlier day.');
  const { count } = await db
    .selectFrom('put_off')
    .select((eb) => eb.fn.countAll<string>().as('count'))
    .where('person_id', '=', person.id)
    .executeTakeFirstOrThrow();
  if (Number(count) >= MOST)
    throw new Refusal(409, 'Too much is put off already. Please bring something back first.');
  await db
    .insertInto('put_off')
    .values({ person_id: person.id, school_id: person.school_id, line, until_at: new Date(until) })
    .onConflict((conflict) =>
      conflict.columns(['person_id', 'line']).doUpdateSet({ until_at: new Date(until) }),
    )
    .execute();
}

/** What somebody put off, by its line, and until when, in epoch milliseconds. */
export async function readPutOff(db: Database, person: string): Promise<Record<string, number>> {
  const rows = await db
    .selectFrom('put_off')
    .select(['line', 'until_at'])
    .where('person_id', '=', person)
    .execute();
  return Object.fromEntries(rows.map(({ line, until_at }) => [line, until_at.getTime()]));
}
