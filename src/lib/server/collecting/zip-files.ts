import { TextDecoder } from 'node:util';
import type { LeftOut } from '$core/collecting/collected';
import { open, type Entry, type ZipFile } from 'yauzl';
import { MOST_BYTES } from '../attached/uploads';
import { Refusal } from '../page/refusal';

/** Files of one archive, and their bytes unpacked. */
const MOST_FILES = 2000;
const MOST_UNPACKED = 2_000_000_000;
/** Nothing that people write gets smaller by more than this. */
const MOST_RATIO = 300;
/** What systems put beside the files. */
const OF_SYSTEMS = /(^|\/)(__MACOSX\/|\.DS_Store$|Thumbs\.db$|desktop\.ini$|\._[^/]*$|~\$[^/]*$)/i;

export interface FileInZip {
  path: string;
  bytes: () => AsyncIterable<Buffer>;
}

/**
 * The files of a zip archive on the disk. Nothing is written where their names say: a name that climbs is a name alone.
 * @throws Refusal when it is none, or holds too much
 */
export async function filesInZip(
  path: string,
): Promise<{ files: FileInZip[]; leftOut: LeftOut[]; close: () => void }> {
  const zip = await openZip(path);
  try {
    const entries = await listEntries(zip);
    const leftOut: LeftOut[] = [];
    const files: FileInZip[] = [];
    for (const { entry, name } of entries) {
      const path = plainPath(name);
      const why = whyNot(entry);
      if (why) leftOut.push({ path, why });
      else files.push({ path, bytes: () => read(zip, entry, path) });
    }
    return { files, leftOut, close: () => zip.close() };
  } catch (error) {
    zip.close();
    throw error;
  }
}

function whyNot(entry: Entry): string | null {
  if (entry.uncompressedSize > MOST_BYTES) return `It is larger than ${MOST_BYTES / 1_000_000} MB.`;
  if ((entry.generalPurposeBitFlag & 1) !== 0) return 'It is locked with a password.';
  if (![0, 8].includes(entry.compressionMethod))
    return 'It is packed in a way that is not read here.';
  return entry.uncompressedSize === 0 ? 'It is empty.' : null;
}

const openZip = (path: string): Promise<ZipFile> =>
  new Promise((resolve, reject) =>
    open(path, { lazyEntries: true, autoClose: false, decodeStrings: false }, (error, zip) =>
      error
        ? reject(new Refusal(422, 'This zip archive is damaged, so it stays one file.'))
        : resolve(zip),
    ),
  );

async function listEntries(zip: ZipFile): Promise<{ entry: Entry; name: string }[]> {
  const entries: { entry: Entry; name: string }[] = [];
  let [unpacked, packed] = [0, 0];
  await new Promise<void>((resolve, reject) => {
    zip.on('error', () =>
      reject(new Refusal(422, 'This zip archive is damaged, so it stays one file.')),
    );
    zip.on('end', resolve);
    zip.on('entry', (entry: Entry) => {
      const name = decodeName(entry);
      unpacked += entry.uncompressedSize;
      packed += entry.compressedSize;
      if (unpacked > MOST_UNPACKED || unpacked > packed * MOST_RATIO + 1_000_000)
        return reject(
          new Refusal(422, 'Unpacked, this zip archive would be too large, so it stays one file.'),
        );
      if (!name.endsWith('/') && !OF_SYSTEMS.test(name)) entries.push({ entry, name });
      if (entries.length > MOST_FILES)
        return reject(
          new Refusal(
            422,
            `This zip archive holds more than ${MOST_FILES} files, so it stays one file.`,
          ),
        );
      zip.readEntry();
    });
    zip.readEntry();
  });
  return entries;
}

const strict = new TextDecoder('utf-8', { fatal: true });

/** A name: many programs write UTF-8 without saying so; what is none is read as most Western systems write it. */
function decodeName(entry: Entry): string {
  const bytes = entry.fileName as unknown as Buffer;
  try {
    return strict.decode(bytes);
  } catch {
    return new TextDecoder('windows-1252').decode(bytes);
  }
}

/** A path as it is shown and matched: no step up, no root, nothing that cannot be seen. */
const plainPath = (name: string): string =>
  name
    .normalize('NFC')
    .replace(/\\/g, '/')
    .replace(/[\p{Cc}\p{Cs}\u202a-\u202e\u2066-\u2069]/gu, '')
    .split('/')
    .map((part) => [...part.trim()].slice(0, 200).join(''))
    .filter((part) => part !== '' && part !== '.' && part !== '..' && !/^[a-z]:$/i.test(part))
    .join('/') || 'file';

async function* read(zip: ZipFile, entry: Entry, path: string): AsyncGenerator<Buffer> {
  try {
    const stream = await new Promise<NodeJS.ReadableStream>((resolve, reject) =>
      zip.openReadStream(entry, (error, one) => (error ? reject(error) : resolve(one))),
    );
    for await (const piece of stream) yield piece as Buffer;
  } catch (error) {
    if (error instanceof Refusal) throw error;
    throw new Refusal(422, `“${path}” is damaged.`);
  }
}
