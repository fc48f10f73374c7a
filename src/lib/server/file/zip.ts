import { fromBuffer, type Entry, type ZipFile } from 'yauzl';
import { Refusal } from '../page/refusal';

/** Of all that is unpacked from one archive, in bytes, and of its entries. */
const MOST_BYTES = 100_000_000;
const MOST_ENTRIES = 5_000;

const open = (bytes: Buffer) =>
  new Promise<ZipFile>((resolve, reject) =>
    fromBuffer(bytes, { lazyEntries: true, strictFileNames: true }, (error, zip) =>
      error ? reject(error) : resolve(zip),
    ),
  );

const stream = (zip: ZipFile, entry: Entry) =>
  new Promise<NodeJS.ReadableStream>((resolve, reject) =>
    zip.openReadStream(entry, (error, out) => (error ? reject(error) : resolve(out))),
  );

/**
 * Unpacks an archive in memory. An archive that is damaged, would grow without bound, or whose names climb out of it is
 * refused whole.
 * @param wanted which entries to keep; all are read, so that none can hide its size
 * @throws Refusal with what is wrong
 */
export async function readZip(
  bytes: Buffer,
  wanted: (name: string) => boolean = () => true,
): Promise<Map<string, Buffer>> {
  const found = new Map<string, Buffer>();
  let total = 0;
  try {
    const zip = await open(bytes);
    if (zip.entryCount > MOST_ENTRIES)
      throw new Refusal(
        413,
        `This archive holds more than ${MOST_ENTRIES} files, which is more than is read.`,
      );
    await new Promise<void>((resolve, reject) => {
      zip.on('error', reject);
      zip.on('end', resolve);
      zip.on('entry', (entry: Entry) => {
        readEntry(zip, entry).then(() => zip.readEntry(), reject);
      });
      zip.readEntry();
    });
  } catch (error) {
    if (error instanceof Refusal) throw error;
    const climbs =
      error instanceof Error &&
      /invalid (relative path|characters)|absolute path/.test(error.message);
    throw new Refusal(
      422,
      climbs
        ? 'A file of this archive wants to lie outside it, so nothing was taken from it.'
        : 'This archive is damaged or is no zip archive. Please save it again and try once more.',
    );
  }
  return found;

  async function readEntry(zip: ZipFile, entry: Entry) {
    if (entry.fileName.endsWith('/')) return;
    const pieces: Buffer[] = [];
    for await (const piece of await stream(zip, entry)) {
      total += piece.length;
      if (total > MOST_BYTES)
        throw new Refusal(
          413,
          'Unpacked, this archive would be larger than 100 MB, which is more than is read.',
        );
      if (wanted(entry.fileName)) pieces.push(Buffer.from(piece));
    }
    if (wanted(entry.fileName)) found.set(entry.fileName, Buffer.concat(pieces));
  }
}
