import { documentKind } from '$core/attached/shown-as';
import type { Grant } from '../access/grant';
import { inTransaction, type Tx } from '../db/transaction';
import { Refusal } from '../page/refusal';
import type { Connection } from '../page/page-store';
import type { Using } from '../services';
import { changeAttached, refuseTooMany } from './change-attached';
import { readBytes } from './file-bytes';
import { askToLook } from './look-at';
import { tellType, TOLD_BY } from './tell-type';

/** Of one file, in bytes. */
const MOST_BYTES = 200_000_000;
/** Of one piece, in bytes. */
export const MOST_PIECE = 4_000_000;

type Own = Grant<'do own work'>;

/** A file that comes in pieces, and how much of it is here. In bytes. */
export interface Upload {
  id: string;
  size: number;
  received: number;
}

/** @throws Refusal with a sentence */
export async function beginUpload(
  app: Using<'db' | 'limits'>,
  { thing, person }: Own,
  { name, size }: { name: string; size: number },
): Promise<Upload> {
  if (size === 0) throw new Refusal(422, `“${name}” is empty.`);
  if (size > MOST_BYTES)
    throw new Refusal(
      413,
      `“${name}” is larger than ${MOST_BYTES / 1_000_000} MB. Please make it smaller, or attach a link to it.`,
    );
  await forgetUnfinished(app.db, Date.now());
  await app.limits.count('attached', person.id, Math.ceil(size / 1000));
  const { count } = await app.db
    .selectFrom('attachment')
    .select((eb) => eb.fn.countAll<string>().as('count'))
    .where('page_id', '=', thing.id)
    .where('away_at', 'is', null)
    .executeTakeFirstOrThrow();
  refuseTooMany(Number(count));
  const { id } = await app.db
    .insertInto('upload')
    .values({ school_id: thing.school_id, person_id: person.id, page_id: thing.id, name, size })
    .returning('id')
    .executeTakeFirstOrThrow();
  return { id, size, received: 0 };
}

const findUpload = (db: Connection, { thing, person }: Own, id: string) =>
  db
    .selectFrom('upload')
    .select(['id', 'name', 'size', 'received', 'finished_at'])
    .where('id', '=', id)
    .where('page_id', '=', thing.id)
    .where('person_id', '=', person.id);

const NONE = 'This file is not on its way any more. Please choose it again.';

/** How much of a file is here; what is whole is attached, if a process died before it was. @throws Refusal */
export async function readUpload(
  app: Using<'db' | 'news' | 'jobs'>,
  grant: Own,
  id: string,
): Promise<Upload> {
  const row = await findUpload(app.db, grant, id).executeTakeFirst();
  if (!row) throw new Refusal(404, NONE);
  const upload = { id, size: Number(row.size), received: Number(row.received) };
  if (upload.received === upload.size && !row.finished_at) await finish(app, grant, id);
  return upload;
}

/**
 * Takes in a piece. A piece that was taken in before, or that comes out of turn, is refused with 409: whoever sends asks how
 * much is here and goes on from there. @returns how much is here then
 */
export async function takePiece(
  app: Using<'db' | 'news' | 'jobs'>,
  grant: Own,
  id: string,
  { at, bytes }: { at: number; bytes: Buffer },
): Promise<number> {
  const upload = await inTransaction(app.db, async (tx) => {
    const row = await findUpload(tx, grant, id).forUpdate().executeTakeFirst();
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
  if (upload.received === upload.size) await finish(app, grant, id);
  return upload.received;
}

/** Gives up a file that is on its way. */
export async function dropUpload(app: Using<'db'>, grant: Own, id: string): Promise<void> {
  const row = await findUpload(app.db, grant, id)
    .where('finished_at', 'is', null)
    .executeTakeFirst();
  if (!row) throw new Refusal(404, NONE);
  await app.db.deleteFrom('upload').where('id', '=', id).where('finished_at', 'is', null).execute();
}

/** Attaches a file that is whole: once, whoever asks. */
const finish = (app: Using<'db' | 'news' | 'jobs'>, grant: Own, id: string): Promise<void> =>
  changeAttached(app, grant, async (tx) => {
    const upload = await tx
      .selectFrom('upload')
      .select(['name', 'school_id'])
      .where('id', '=', id)
      .where('finished_at', 'is', null)
      .forUpdate()
      .executeTakeFirst();
    if (!upload) return;
    const type = await tellType(await readBegins(tx, id), upload.name);
    await tx
      .updateTable('upload')
      .set({ finished_at: new Date(), type })
      .where('id', '=', id)
      .execute();
    const isDocument = documentKind(type, upload.name) !== null;
    const { id: attachment } = await tx
      .insertInto('attachment')
      .values({
        school_id: upload.school_id,
        page_id: grant.thing.id,
        upload_id: id,
        made_by: grant.person.id,
        found: isDocument ? 'not looked at yet' : type === null ? 'cannot be read' : 'fine',
      })
      .returning('id')
      .executeTakeFirstOrThrow();
    if (isDocument) await askToLook(app.jobs, tx, upload.school_id, { attachment, keep: false });
  });

async function readBegins(tx: Tx, id: string): Promise<Buffer> {
  const pieces: Buffer[] = [];
  for await (const piece of readBytes(tx, id, { from: 0, to: TOLD_BY })) pieces.push(piece);
  return Buffer.concat(pieces);
}

/** Files that nobody went on with for so long are given up, in milliseconds. */
const GIVEN_UP_AFTER = 7 * 86_400_000;

/** Forgets files that came in part alone, long ago. */
async function forgetUnfinished(db: Connection, now: number): Promise<void> {
  await db
    .deleteFrom('upload')
    .where('finished_at', 'is', null)
    .where('made_at', '<', new Date(now - GIVEN_UP_AFTER))
    .execute();
}
