import type { CopyRow } from '$core/copy/copy-row';
import { mayWrite, stateOf } from '$core/copy/state';
import type { Grant } from '../access/grant';
import { recordMove } from '../copy/record-move';
import { Refusal } from '../page/refusal';
import type { Using } from '../services';
import { readBytes } from './file-bytes';

/** @throws Refusal when its teacher has it */
export function refuseWithTeacher({ facts }: Pick<CopyRow, 'facts'>): void {
  if (!mayWrite(stateOf(facts)))
    throw new Refusal(
      423,
      'This copy is handed in, so nothing can be attached or removed now. Take it back to go on.',
    );
}

/** Removes something attached, or brings it back. @throws Refusal */
export async function putAttachedAway(
  app: Using<'db' | 'news'>,
  { thing, person }: Grant<'do own work'>,
  id: string,
  away: boolean,
): Promise<void> {
  await recordMove(
    app,
    { page: thing.id, person: person.id },
    (copy) => {
      refuseWithTeacher(copy);
      return [];
    },
    async (tx) => {
      const { numUpdatedRows } = await tx
        .updateTable('attachment')
        .set({ away_at: away ? new Date() : null })
        .where('id', '=', id)
        .where('page_id', '=', thing.id)
        .executeTakeFirst();
      if (numUpdatedRows === 0n) throw new Refusal(404, 'There is no such thing attached here.');
      return null;
    },
  );
}

/** An attached file, to be shown or downloaded. */
export interface AttachedFile {
  name: string;
  type: string | null;
  /** In bytes. */
  size: number;
  /** @param range `to` is excluded */
  bytes: (range: { from: number; to: number }) => AsyncIterable<Buffer>;
}

/** A file that is, or was, attached to a page that somebody may read. @throws Refusal when there is none */
export async function openAttached(
  app: Using<'db'>,
  { thing }: Grant<'read the page'>,
  id: string,
): Promise<AttachedFile> {
  const row = await app.db
    .selectFrom('attachment')
    .innerJoin('upload', 'upload.id', 'attachment.upload_id')
    .select(['upload.id', 'name', 'type', 'size'])
    .where('attachment.id', '=', id)
    .where('attachment.page_id', '=', thing.id)
    .executeTakeFirst();
  if (!row) throw new Refusal(404, 'There is no such file.');
  const { name, type } = row;
  return {
    name,
    type,
    size: Number(row.size),
    bytes: (range) => readBytes(app.db, row.id, range),
  };
}
