import { sql } from 'kysely';
import { inTransaction, type Tx } from '../db/transaction';
import { Refusal } from '../page/refusal';
import type { Connection } from '../page/page-store';
import type { Using } from '../services';
import type { LimitKind } from '../access/limits';
import { readBytes } from './file-bytes';
import { tellType, TOLD_BY } from './tell-type';

/** Of one file, in bytes. */
export const MOST_BYTES = 200_000_000;
/** Of one piece, in bytes. */
export const MOST_PIECE = 4_000_000;

/** Where files that come in pieces go to: somebody's copy, or what a teacher collects. */
export interface Receiver {
  school: number;
  person: string;
  /** What a file belongs to while it is on its way. */
  into: { page_id: string; said?: true } | { assignment_id: string; class_id: string };
  /** By what it is counted how much somebody brings. */
  limit: LimitKind;
  /** Of one file, in bytes; `MOST_BYTES` where it is left out. */
  most?: number;
  /** @throws Refusal when nothing more goes there */
  refuse: () => Promise<void>;
  /** Does with a whole file what it came for: `finish` gives it, once, whoever asks. */
  take: (finish: (tx: Tx) => Promise<WholeFile | null>) => Promise<void>;
}

/** A file that is whole. */
export interface WholeFile {
  upload: string;
  name: string;
  /** Told from its bytes; null where they tell none. */
  type: string | null;
}

/** A file that comes in pieces, and how much of it is here. In bytes. */
export interface Upload {
  id: string;
  size: number;
  received: number;
}

/** @throws Refusal with a sentence */
export async function beginUpload(
  app: Using<'db' | 'limits'>,
  to: Receiver,
  { name, size }: { name: string; size: number },
): Promise<Upload> {
  if (size === 0) throw new Refusal(422, `“${name}” is empty.`);
  const { most = MOST_BYTES } = to;
  if (size > most)
    throw new Refusal(
      413,
      `“${name}” is larger than ${most / 1_000_000} MB. Please make it smaller, or attach a link to it.`,
    );
  await forgetUnfinished(app.db, Date.now());
  await app.limits.count(to.limit, to.person, Math.ceil(size / 1000));
  await to.refuse();
  const { id } = await app.db
    .insertInto('upload')
    .values({ school_id: to.school, person_id: to.person, ...to.into, name, size })
    .returning('id')
    .executeTakeFirstOrThrow();
  return { id, size, received: 0 };
}

function findUpload(db: Connection, { into, person }: Receiver, id: string) {
  const found = db
    .selectFrom('upload')
    .select(['id', 'name', 'size', 'received', 'finished_at'])
    .where('id', '=', id)
    .where('person_id', '=', person);
  return 'page_id' in into
    ? found.where('page_id', '=', into.page_id).where('said', '=', into.said ?? false)
    : found.where('assignment_id', '=', into.assignment_id).where('class_id', '=', into.class_id);
}

const NONE = 'This file is not on its way any more. Please choose it again.';

/** How much of a file is here; what is whole is taken, if a process died before it was. @throws Refusal */
export async function readUpload(app: Using<'db'>, to: Receiver, id: string): Promise<Upload> {
  const row = await findUpload(app.db, to, id).executeTakeFirst();
  if (!row) throw new Refusal(404, NONE);
  const upload = { id, size: Number(row.size), received: Number(row.received) };
  if (upload.received === upload.size && !row.finished_at) await to.take(finishing(id));
  return upload;
}

/**
 * Takes in a piece. A piece that was taken in before, or that comes out of turn, is refused with 409: whoever sends asks how
 * much is here and goes on from there. @returns how much is here then
 */
export async function takePiece(
  app: Using<'db'>,
  to: Receiver,
  id: string,
  { at, bytes }: { at: number; bytes: Buffer },
): Promise<number> {
  const upload = await inTransaction(app.db, async (tx) => {
    const row = await findUpload(tx, to, id).forUpdate().executeTakeFirst();
    if (!row) throw new Refusal(404, NONE);
    const [size, received] = [Number(row.size), Number(row.received)];
    if (at !== received) throw new Refusal(409, 'This piece comes out of turn.');
    if (at + bytes.length > size) throw new Refusal(413, 'This is more than was announced.');
    if (bytes.length > 0)
      await tx.insertInto('upload_piece').values({ upload_id: id, starts: at, bytes }).execute();
    await tx
      .updateTable('upload')
      .set({ received: at + bytes.length })
      .where('id', '=', id)
      .execute();
    return { size, received: at + bytes.length };
  });
  if (upload.received === upload.size) await to.take(finishing(id));
  return upload.received;
}

/** On its way, or waiting for the words of a comment. */
const NOT_USED = sql<boolean>`(upload.finished_at is null
  or upload.said and not exists (select from comment where comment.upload_id = upload.id))`;

/** Gives up a file that is on its way, or that waits for the words of a comment. */
export async function dropUpload(app: Using<'db'>, to: Receiver, id: string): Promise<void> {
  const row = await findUpload(app.db, to, id).where(NOT_USED).executeTakeFirst();
  if (!row) throw new Refusal(404, NONE);
  await app.db.deleteFrom('upload').where('id', '=', id).where(NOT_USED).execute();
}

/** Finishes a file in a transaction; null where somebody did before. */
const finishing =
  (id: string) =>
  async (tx: Tx): Promise<WholeFile | null> => {
    const upload = await tx
      .selectFrom('upload')
      .select('name')
      .where('id', '=', id)
      .where('finished_at', 'is', null)
      .forUpdate()
      .executeTakeFirst();
    if (!upload) return null;
    const type = await tellType(await readBegins(tx, id), upload.name);
    await tx
      .updateTable('upload')
      .set({ finished_at: new Date(), type })
      .where('id', '=', id)
      .execute();
    return { upload: id, name: upload.name, type };
  };

async function readBegins(tx: Tx, id: string): Promise<Buffer> {
  const pieces: Buffer[] = [];
  for await (const piece of readBytes(tx, id, { from: 0, to: TOLD_BY })) pieces.push(piece);
  return Buffer.concat(pieces);
}

/** Files that nobody went on with for so long are given up, in milliseconds. */
const GIVEN_UP_AFTER = 7 * 86_400_000;

/** Forgets files that came in part alone, long ago, and those that wait for the words of a comment since then. */
async function forgetUnfinished(db: Connection, now: number): Promise<void> {
  await db
    .deleteFrom('upload')
    .where('made_at', '<', new Date(now - GIVEN_UP_AFTER))
    .where(NOT_USED)
    .execute();
}
