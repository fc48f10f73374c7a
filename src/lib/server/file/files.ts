import { createHash } from 'node:crypto';
import { fileTypeFromBuffer } from 'file-type';
import type { Database } from '../db/connect';
import { Refusal } from '../page/refusal';

const PICTURES = new Set(['image/png', 'image/jpeg', 'image/gif', 'image/webp']);
/** Bytes of one picture. */
const MOST_BYTES = 10_000_000;

/**
 * Keeps a picture under the SHA-256 of its bytes; the same picture twice is one.
 * @returns the name
 */
export async function keepPicture(
  db: Database,
  bytes: Buffer,
  by: { id: string; school_id: number },
): Promise<string> {
  if (bytes.length > MOST_BYTES)
    throw new Refusal(413, 'This picture is larger than 10 MB. Please make it smaller first.');
  // The bytes say what they are; what the browser or the file's name says does not count.
  const type = await fileTypeFromBuffer(bytes);
  if (!type || !PICTURES.has(type.mime))
    throw new Refusal(
      415,
      'This is not a picture that a page can show. It takes PNG, JPEG, GIF and WebP.',
    );
  const hash = createHash('sha256').update(bytes).digest('hex');
  await db
    .insertInto('file')
    .values({ hash, school_id: by.school_id, type: type.mime, bytes, made_by: by.id })
    .onConflict((conflict) => conflict.doNothing())
    .execute();
  return hash;
}

export const readPicture = (db: Database, school: number, hash: string) =>
  db
    .selectFrom('file')
    .select(['type', 'bytes'])
    .where('hash', '=', hash)
    .where('school_id', '=', school)
    .executeTakeFirst();
