import { createHash } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { PassThrough } from 'node:stream';
import { finished, pipeline } from 'node:stream/promises';
import { ZipFile } from 'yazl';
import { DECLARATION, writeManifest, writeTags } from '$core/archive/manifest';

/** Little of the text gets smaller by more than this, and it takes a third of the time. */
const LEVEL = 1;
/** What is compressed already. */
const STORED = /\.(png|jpe?g|gif|webp|xlsx)$|record\/files\//;

const digestOf = (text: string): string => createHash('sha256').update(text).digest('hex');

/** Writes a bag (RFC 8493) into a zip archive, one file after the other: none is held in memory, each hashed as it goes by. */
export class BagWriter {
  private readonly zip = new ZipFile();
  private readonly written: Promise<void>;
  /** Rejected when the archive cannot be written: the disk is full. */
  private readonly failure: Promise<never>;
  private readonly digests = new Map<string, string>();
  private bytes = 0;

  /**
   * @param path of the zip archive
   * @param folder its one folder
   * @param at the time that every file has: two archives of one class are alike
   */
  constructor(
    path: string,
    private readonly folder: string,
    private readonly at: Date,
  ) {
    this.written = pipeline(this.zip.outputStream, createWriteStream(path));
    this.failure = this.written.then(() => new Promise<never>(() => undefined));
    // Nobody may be adding a file at that moment; then it is heard of in the end.
    this.failure.catch(() => undefined);
  }

  /** Adds a file below `data/`. */
  async add(path: string, contents: AsyncIterable<string | Buffer> | string | Buffer) {
    const hash = createHash('sha256');
    const into = new PassThrough();
    this.put(`data/${path}`, into, !STORED.test(path));
    const pieces =
      typeof contents === 'string' || Buffer.isBuffer(contents) ? [contents] : contents;
    const all = (async () => {
      for await (const piece of pieces) {
        const bytes = Buffer.from(piece);
        hash.update(bytes);
        this.bytes += bytes.length;
        if (!into.write(bytes)) await Promise.race([drained(into), this.failure]);
      }
      into.end();
    })();
    await Promise.race([Promise.all([all, finished(into)]), this.failure]);
    this.digests.set(`data/${path}`, hash.digest('hex'));
  }

  /** Writes what makes it a bag, and waits until all is on the disk. @param tags of `bag-info.txt` */
  async finish(tags: readonly (readonly [string, string])[]): Promise<void> {
    const files = new Map([
      ['bagit.txt', DECLARATION],
      [
        'bag-info.txt',
        writeTags([...tags, ['Payload-Oxum', `${this.bytes}.${this.digests.size}`]]),
      ],
      ['manifest-sha256.txt', writeManifest(this.digests)],
    ]);
    const tagDigests = new Map([...files].map(([name, text]) => [name, digestOf(text)]));
    files.set('tagmanifest-sha256.txt', writeManifest(tagDigests));
    for (const [name, text] of files)
      this.zip.addBuffer(Buffer.from(text), `${this.folder}/${name}`, { mtime: this.at });
    this.zip.end();
    await this.written;
  }

  private put(path: string, from: PassThrough, compress: boolean) {
    this.zip.addReadStream(from, `${this.folder}/${path}`, {
      mtime: this.at,
      mode: 0o100644,
      compress,
      compressionLevel: compress ? LEVEL : 0,
    });
  }
}

const drained = (stream: PassThrough) =>
  new Promise<void>((resolve) => stream.once('drain', resolve));
