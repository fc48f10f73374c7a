import { ZipFile } from 'yazl';

/** A zip archive of files by their names. */
export async function zip(files: Record<string, string | Buffer>): Promise<Buffer> {
  const archive = new ZipFile();
  for (const [name, contents] of Object.entries(files))
    archive.addBuffer(Buffer.from(contents), name);
  archive.end();
  const pieces: Buffer[] = [];
  for await (const piece of archive.outputStream) pieces.push(Buffer.from(piece));
  return Buffer.concat(pieces);
}
