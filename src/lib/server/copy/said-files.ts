import { sql } from 'kysely';
import { z } from 'zod';
import { MOST_SAID, saidAs } from '$core/copy/said-file';
import type { Grant } from '../access/grant';
import type { AttachedFile } from '../attached/attach';
import { readBytes } from '../attached/file-bytes';
import type { Receiver } from '../attached/uploads';
import { inTransaction, type Tx } from '../db/transaction';
import type { Connection } from '../page/page-store';
import { Refusal } from '../page/refusal';
import type { Using } from '../services';
import { readUnseen } from './scores-apart';
import { COMMENT_SENT } from './sent';
import { viewerOf } from './viewer';

/** Pictures and sound that one of the staff sends to go with a comment: each waits for its words when it is whole. */
export const withComment = (app: Using<'db'>, { thing, person }: Grant<'comment'>): Receiver => ({
  school: thing.school_id,
  person: person.id,
  into: { page_id: thing.id, said: true },
  limit: 'attached',
  most: MOST_SAID,
  refuse: async () => {
    if (person.role === 'student')
      throw new Refusal(403, 'Teachers put pictures and sound into comments.');
  },
  take: (finish) =>
    inTransaction(app.db, async (tx) => {
      const file = await finish(tx);
      if (file && saidAs(file.type) === null)
        throw new Refusal(422, `“${file.name}” is neither a picture nor sound.`);
    }),
});

/** A file that waits for a comment of this person on this page. */
const findWaiting = (db: Connection, { thing, person }: Grant<'comment'>, upload: string) =>
  db
    .selectFrom('upload')
    .select(['id', 'name', 'type', 'size'])
    .where('id', '=', upload)
    .where('page_id', '=', thing.id)
    .where('person_id', '=', person.id)
    .where('said', '=', true)
    .where('finished_at', 'is not', null)
    .where(({ not, exists, selectFrom }) =>
      not(exists(selectFrom('comment').select('id').whereRef('upload_id', '=', 'upload.id'))),
    );

const GONE = 'This picture or recording is not here any more. Please add it again.';

/** @throws Refusal when a file does not wait for a comment of this person on this page */
export async function refuseNotWaiting(
  tx: Tx,
  grant: Grant<'comment'>,
  upload: string,
): Promise<void> {
  const waits = await findWaiting(tx, grant, upload).forUpdate().executeTakeFirst();
  if (!waits) throw new Refusal(404, GONE);
}

/** The same file, to be looked at or heard. @throws Refusal when there is none */
export async function openWaiting(
  { db }: Using<'db'>,
  grant: Grant<'comment'>,
  upload: string,
): Promise<AttachedFile> {
  const id = z.uuid().safeParse(upload);
  const row = id.success && (await findWaiting(db, grant, id.data).executeTakeFirst());
  if (!row) throw new Refusal(404, GONE);
  return asFile(db, row);
}

const asFile = (
  db: Connection,
  { id, name, type, size }: { id: string; name: string; type: string | null; size: string },
): AttachedFile => ({
  name,
  type,
  size: Number(size),
  bytes: (range) => readBytes(db, id, range),
});

/** What goes with a comment, for whoever sees that. @throws Refusal when there is none */
export async function openSaid(
  app: Using<'db'>,
  { thing, person }: Grant<'read the comments'>,
  comment: string,
): Promise<AttachedFile> {
  const viewer = viewerOf(person);
  const row = await app.db
    .selectFrom('comment')
    .innerJoin('thread', 'thread.id', 'comment.thread_id')
    .innerJoin('upload', 'upload.id', 'comment.upload_id')
    .select(['upload.id', 'name', 'type', 'size', 'comment.person_id', 'thread.made_by'])
    .where('comment.id', '=', comment)
    .where('thread.page_id', '=', thing.id)
    .where(sql<boolean>`(not ${viewer.isStudent} or ${COMMENT_SENT})`)
    .executeTakeFirst();
  const unseen = await readUnseen(app.db, thing.id, viewer);
  if (!row || unseen.includes(row.person_id) || unseen.includes(row.made_by))
    throw new Refusal(404, 'There is nothing of that kind with this comment.');
  return asFile(app.db, row);
}
