import { createHash } from 'node:crypto';
import { fileTypeFromBuffer } from 'file-type';
import { Refusal } from '../page/refusal';

const PICTURES = new Set(['image/png', 'image/jpeg', 'image/gif', 'image/webp']);
/** Bytes of one picture. */
const MOST_BYTES = 10_000_000;

/** What a picture is called, by the SHA-256 of its bytes, and its type. @throws Refusal when a page cannot show it */
export async function namePicture(bytes: Buffer): Promise<{ name: string; type: string }> {
  if (bytes.length > MOST_BYTES)
    throw new Refusal(413, 'This picture is larger than 10 MB. Please make it smaller first.');
  // The bytes say what they are; what the browser or the file's name says does not count.
  const type = await fileTypeFromBuffer(bytes);
  if (!type || !PICTURES.has(type.mime))
    throw new Refusal(
      415,
      'This is not a picture that a page can show. It takes PNG, JPEG, GIF and WebP.',
    );
  return { name: createHash('sha256').update(bytes).digest('hex'), type: type.mime };
}
