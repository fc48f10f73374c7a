import { createHash } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { PassThrough } from 'node:stream';
import { finished, pipeline } from 'node:stream/promises';
import { ZipFile } from 'yazl';
import { DECLARATION, writeManifest, writeTags } from '$core/archive/manifest';

/** Little of the text gets smaller by more than this, and it takes a third of the time. */
const LEVEL = 1;
/** So many bytes of files wait to be packed at most. */
const MOST_AHEAD = 500_000;
/** What is compressed already. */
const STORED =
  /\.(png|jpe?g|gif|webp|xlsx|pdf|docx|odt|zip|mp[34]|m4a|ogg|opus|webm|mov)$|record\/files\//i;

const digestOf = (text: string): string => createHash('sha256').update(text).digest('hex');

/** Writes a bag (RFC 8493) into a zip archive, one file after the other: none is held in memory, each hashed as it goes by. */
export class BagWriter {
  private readonly zip = new ZipFile();
  private readonly written: Promise<void>;
  /** Rejected when the archive cannot be written: the disk is full. */
  private readonly failure: Promise<never>;
  private readonly digests = new Map<string, string>();
  private bytes = 0;
  /** Bytes that were added since something was waited for. */
  private ahead = 0;

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
  async add(
    path: string,
    contents: AsyncIterable<string | Buffer> | string | Buffer,
  ): Promise<void> {
    if (typeof contents !== 'string' && !Buffer.isBuffer(contents))
      return this.addStream(path, contents);
    const bytes = Buffer.from(contents);
    this.ahead += bytes.length;
    // Entries are written in their order: once this one is, so are all before it.
    if (this.ahead > MOST_AHEAD) {
      this.ahead = 0;
      return this.addStream(path, [bytes]);
    }
    this.note(path, createHash('sha256').update(bytes).digest('hex'), bytes.length);
    this.zip.addBuffer(bytes, `${this.folder}/data/${path}`, this.optionsFor(path));
  }

  private async addStream(path: string, pieces: AsyncIterable<string | Buffer> | Iterable<Buffer>) {
    const hash = createHash('sha256');
    const into = new PassThrough();
    this.zip.addReadStream(into, `${this.folder}/data/${path}`, this.optionsFor(path));
    let size = 0;
    const all = (async () => {
      for await (const piece of pieces) {
        const bytes = typeof piece === 'string' ? Buffer.from(piece) : piece;
        hash.update(bytes);
        size += bytes.length;
        if (!into.write(bytes)) await Promise.race([drained(into), this.failure]);
      }
      into.end();
    })();
    await Promise.race([Promise.all([all, finished(into)]), this.failure]);
    this.note(path, hash.digest('hex'), size);
  }

  private note(path: string, digest: string, size: number) {
    this.digests.set(`data/${path}`, digest);
    this.bytes += size;
  }

  private optionsFor(path: string) {
    const compress = !STORED.test(path);
    return {
      mtime: this.at,
      mode: 0o100644,
      compress,
      compressionLevel: compress ? LEVEL : 0,
    };
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
}

const drained = (stream: PassThrough) =>
  new Promise<void>((resolve) => stream.once('drain', resolve));
