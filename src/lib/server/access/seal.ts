import type { Database } from '../db/connect';

/** The key that seals what a person leaves in a browser. It goes to that person alone, while they are signed in. */
export async function readSeal(db: Database, person: string): Promise<string> {
  const { seal } = await db
    .selectFrom('person')
    .select('seal')
    .where('id', '=', person)
    .executeTakeFirstOrThrow();
  return seal;
}
