import { ZipFile } from 'yazl';
import { readZip } from '../file/zip';

/** A spreadsheet packed once more, so that it says nothing of when it was made. @param at the time that its parts have */
export async function withoutDates(xlsx: Buffer, at: Date): Promise<Buffer> {
  const zip = new ZipFile();
  for (const [name, bytes] of [...(await readZip(xlsx))].sort(([a], [b]) => (a < b ? -1 : 1)))
    zip.addBuffer(bytes, name, { mtime: at });
  zip.end();
  const pieces: Buffer[] = [];
  for await (const piece of zip.outputStream) pieces.push(Buffer.from(piece));
  return Buffer.concat(pieces);
}
