import { createHash } from 'node:crypto';
import { createInterface } from 'node:readline';
import type { Readable } from 'node:stream';
import { open, type Entry, type ZipFile } from 'yauzl';
import { isDeclared, readManifest } from '$core/archive/manifest';
import { Refusal } from '../page/refusal';

/** Of all that is unpacked, in bytes; and of its files. */
const MOST_BYTES = 4_000_000_000;
const MOST_FILES = 300_000;
/** Nothing that is written in letters gets smaller by more than this; what does is made to fill disks. */
const MOST_RATIO = 300;
/** Of what is held at once: a file that is read whole, or one line. */
const MOST_HELD = 60_000_000;

const broken = (what: string) => new Refusal(422, `${what} Nothing was taken from this archive.`);

/** A bag (RFC 8493) in a zip archive on the disk, whose every digest fits. It is read from there, never held. */
export class BagReader {
  private constructor(
    private readonly zip: ZipFile,
    private readonly entries: ReadonlyMap<string, Entry>,
  ) {}

  /**
   * Opens a bag and reads all of it once, to see that it is whole.
   * @param progress told how many of all files are read
   * @throws Refusal with what is wrong with it
   */
  static async open(
    path: string,
    progress: (done: number, total: number) => Promise<void> = async () => undefined,
  ): Promise<BagReader> {
    const zip = await openZip(path);
    try {
      const reader = new BagReader(zip, await listEntries(zip));
      await reader.verify(progress);
      return reader;
    } catch (error) {
      zip.close();
      throw error;
    }
  }

  close(): void {
    this.zip.close();
  }

  has = (path: string): boolean => this.entries.has(path);

  /** A file as text. @throws Refusal when it is not there, or too large to be held */
  async text(path: string): Promise<string> {
    return (await this.bytes(path)).toString('utf8');
  }

  async bytes(path: string): Promise<Buffer> {
    const entry = this.entryOf(path);
    if (entry.uncompressedSize > MOST_HELD) throw broken(`“${path}” is too large.`);
    const pieces: Buffer[] = [];
    try {
      for await (const piece of await this.stream(entry)) pieces.push(Buffer.from(piece));
    } catch {
      throw broken(`The file “${path}” is damaged.`);
    }
    return Buffer.concat(pieces);
  }

  /** A file, piece by piece. @throws Refusal when it is not there */
  async *pieces(path: string): AsyncGenerator<Buffer> {
    for await (const piece of await this.stream(this.entryOf(path))) yield piece as Buffer;
  }

  /** The lines of a file, one after the other. @throws Refusal when one is too long to be held */
  async *lines(path: string): AsyncGenerator<string> {
    const stream = await this.stream(this.entryOf(path));
    let held = 0;
    // A line without an end would be gathered for ever.
    stream.on('data', (piece: Buffer) => {
      const end = piece.lastIndexOf(10);
      held = end < 0 ? held + piece.length : piece.length - end;
      if (held > MOST_HELD) stream.destroy(broken(`A line of “${path}” is too long.`));
    });
    for await (const line of createInterface({ input: stream, crlfDelay: Infinity }))
      if (line !== '') yield line;
  }

  private entryOf(path: string): Entry {
    const entry = this.entries.get(path);
    if (!entry) throw broken(`The file “${path}” is missing.`);
    return entry;
  }

  private stream = (entry: Entry): Promise<Readable> =>
    new Promise((resolve, reject) =>
      this.zip.openReadStream(entry, (error, stream) => (error ? reject(error) : resolve(stream))),
    );

  private async verify(progress: (done: number, total: number) => Promise<void>): Promise<void> {
    if (!this.has('bagit.txt') || !isDeclared(await this.text('bagit.txt')))
      throw broken('This is no archive of Uncia: it is not a BagIt bag.');
    const tags = await this.manifest('tagmanifest-sha256.txt');
    const files = await this.manifest('manifest-sha256.txt');
    for (const path of this.entries.keys())
      if (path.startsWith('data/') && !files.has(path))
        throw broken(`The file “${path}” does not belong to it.`);
    let done = 0;
    for (const [path, digest] of [...tags, ...files]) {
      if ((await this.digestOf(this.entryOf(path))) !== digest)
        throw broken(`The file “${path}” is not as it was written: its checksum does not fit.`);
      if (++done % 200 === 0) await progress(done, tags.size + files.size);
    }
  }

  private async manifest(name: string): Promise<Map<string, string>> {
    const digests = readManifest(await this.text(name));
    if (!digests) throw broken(`The list of checksums “${name}” is damaged.`);
    return digests;
  }

  private async digestOf(entry: Entry): Promise<string> {
    const hash = createHash('sha256');
    try {
      for await (const piece of await this.stream(entry)) hash.update(piece);
    } catch {
      // What cannot be unpacked is not what was packed.
      return '';
    }
    return hash.digest('hex');
  }
}

const openZip = (path: string): Promise<ZipFile> =>
  new Promise((resolve, reject) =>
    open(path, { lazyEntries: true, autoClose: false, strictFileNames: true }, (error, zip) =>
      error ? reject(broken('This is no zip archive, or it is damaged.')) : resolve(zip),
    ),
  );

/** The files of the archive's one folder, by their paths in it. @throws Refusal */
async function listEntries(zip: ZipFile): Promise<Map<string, Entry>> {
  if (zip.entryCount > MOST_FILES) throw broken('This archive holds too many files.');
  const entries = new Map<string, Entry>();
  let [unpacked, packed] = [0, 0];
  let folder: string | null = null;
  await new Promise<void>((resolve, reject) => {
    zip.on('error', (error: Error) =>
      reject(
        broken(
          /invalid (relative path|characters)|absolute path/.test(error.message)
            ? 'A file of this archive wants to lie outside it.'
            : 'This zip archive is damaged.',
        ),
      ),
    );
    zip.on('end', resolve);
    zip.on('entry', (entry: Entry) => {
      unpacked += entry.uncompressedSize;
      packed += entry.compressedSize;
      const [first = '', ...rest] = entry.fileName.split('/');
      folder ??= first;
      const path = rest.join('/');
      if (unpacked > MOST_BYTES || unpacked > packed * MOST_RATIO + 1_000_000)
        return reject(broken('Unpacked, this archive would be too large.'));
      if (first !== folder) return reject(broken('This archive holds more than one folder.'));
      if (!entry.fileName.endsWith('/')) {
        if (entries.has(path)) return reject(broken(`The file “${path}” is there twice.`));
        entries.set(path, entry);
      }
      zip.readEntry();
    });
    zip.readEntry();
  });
  return entries;
}
