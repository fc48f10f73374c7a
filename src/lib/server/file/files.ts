import type { Database } from '../db/connect';
import { namePicture } from './picture-name';

/**
 * Keeps a picture under the SHA-256 of its bytes; the same picture twice is one.
 * @returns the name
 * @throws Refusal when a page cannot show it
 */
export async function keepPicture(
  db: Database,
  bytes: Buffer,
  by: { id: string; school_id: number },
): Promise<string> {
  const { name, type } = await namePicture(bytes);
  await db
    .insertInto('file')
    .values({ hash: name, school_id: by.school_id, type, bytes, made_by: by.id })
    .onConflict((conflict) => conflict.doNothing())
    .execute();
  return name;
}

export const readPicture = (db: Database, school: number, hash: string) =>
  db
    .selectFrom('file')
    .select(['type', 'bytes'])
    .where('hash', '=', hash)
    .where('school_id', '=', school)
    .executeTakeFirst();
