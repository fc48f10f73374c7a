import type { Tx } from '../db/transaction';
import { Refusal } from '../page/refusal';
import { tellType, TOLD_BY } from './tell-type';
import { MOST_BYTES, MOST_PIECE, type WholeFile } from './uploads';

/** Bytes that come one after the other, or are there. */
export type Pieces = AsyncIterable<Buffer> | Iterable<Buffer>;

type Belongs = { school_id: number; person_id: string; name: string } & (
  { page_id: string; said?: true } | { assignment_id: string; class_id: string }
);

/** Keeps a file that does not come from a browser, piece by piece; what it is is told from its bytes. @throws Refusal when it is empty or too large */
export async function storeFile(
  tx: Tx,
  bytes: Pieces,
  { name, ...belongs }: Belongs,
  at = new Date(),
): Promise<WholeFile> {
  const { id } = await tx
    .insertInto('upload')
    .values({ ...belongs, name, size: 1, made_at: at, finished_at: at })
    .returning('id')
    .executeTakeFirstOrThrow();
  let size = 0;
  let begins: Buffer = Buffer.alloc(0);
  for await (const piece of inPieces(bytes, MOST_PIECE)) {
    await tx
      .insertInto('upload_piece')
      .values({ upload_id: id, starts: size, bytes: piece })
      .execute();
    size += piece.length;
    if (size > MOST_BYTES)
      throw new Refusal(413, `“${name}” is larger than ${MOST_BYTES / 1_000_000} MB.`);
    if (begins.length < TOLD_BY) begins = Buffer.concat([begins, piece]).subarray(0, TOLD_BY);
  }
  if (size === 0) throw new Refusal(422, `“${name}” is empty.`);
  const type = await tellType(begins, name);
  await tx.updateTable('upload').set({ size, received: size, type }).where('id', '=', id).execute();
  return { upload: id, name, type };
}

/** Bytes in pieces of one size, the last of what is left. */
async function* inPieces(bytes: Pieces, size: number): AsyncGenerator<Buffer> {
  let held: Buffer[] = [];
  let length = 0;
  for await (const piece of bytes) {
    held.push(piece);
    length += piece.length;
    while (length >= size) {
      const all = Buffer.concat(held);
      yield all.subarray(0, size);
      held = [all.subarray(size)];
      length -= size;
    }
  }
  if (length > 0) yield Buffer.concat(held);
}
