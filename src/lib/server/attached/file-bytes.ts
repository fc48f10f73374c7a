import { sql } from 'kysely';
import type { Connection } from '../page/page-store';

/** The bytes of a file from one place to another, piece by piece. @param range `to` is excluded */
export async function* readBytes(
  db: Connection,
  id: string,
  { from, to }: { from: number; to: number },
): AsyncGenerator<Buffer> {
  let at = from;
  while (at < to) {
    const { rows } = await sql<{ starts: string; bytes: Buffer }>`
      select starts, bytes from upload_piece where upload_id = ${id} and starts <= ${at}
      order by starts desc limit 1`.execute(db);
    const [piece] = rows;
    const begin = at - Number(piece?.starts ?? 0);
    const bytes = piece?.bytes.subarray(begin, begin + to - at);
    if (!bytes?.length) return;
    yield bytes;
    at += bytes.length;
  }
}
