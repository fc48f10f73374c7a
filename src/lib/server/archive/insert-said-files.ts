import { saidAs } from '$core/copy/said-file';
import { storeFile } from '../attached/store-file';
import type { Tx } from '../db/transaction';
import type { BagReader } from './bag-reader';
import { readIds } from './insert-rows';
import { brokenRecord, eachOf } from './read-record';

const FILE = 'said-files.ndjson';

/** A comment of an archive, of those of its thread from 0. */
export const commentAt = (thread: number, comment: number): string => `${thread} ${comment}`;

/**
 * Takes in the pictures and recordings of comments, which come after them.
 * @returns their ids by `commentAt`
 */
export async function insertSaidFiles(
  tx: Tx,
  bag: BagReader,
  school: number,
): Promise<ReadonlyMap<string, string>> {
  const files = new Map<string, string>();
  const people = await readIds(tx, 'person');
  const pages = await readIds(tx, 'page');
  await eachOf(bag, FILE, async (batch) => {
    for (const { thread, comment, page, by, at, file } of batch) {
      const [person_id, page_id] = [people.get(by), pages.get(page)];
      if (!person_id || !page_id)
        throw brokenRecord(FILE, `“${file.name}” is of nobody, or on no page.`);
      const belongs = {
        school_id: school,
        person_id,
        page_id,
        said: true as const,
        name: file.name,
      };
      const bytes = bag.pieces(`data/${file.path}`);
      const { upload, type } = await storeFile(tx, bytes, belongs, new Date(at));
      if (saidAs(type) === null)
        throw brokenRecord(FILE, `“${file.name}” is neither a picture nor sound.`);
      files.set(commentAt(thread, comment), upload);
    }
  });
  return files;
}
