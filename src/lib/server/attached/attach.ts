import { z } from 'zod';
import { readLink } from '$core/attached/links';
import type { Grant } from '../access/grant';
import { inTransaction } from '../db/transaction';
import type { Database } from '../db/connect';
import { Refusal } from '../page/refusal';
import type { Using } from '../services';
import { changeAttached, refuseTooMany } from './change-attached';
import { readBytes } from './file-bytes';
import { askToLook } from './look-at';

/** Removes something attached, or brings it back. @throws Refusal */
export const putAttachedAway = (
  app: Using<'db' | 'news'>,
  grant: Grant<'do own work'>,
  id: string,
  away: boolean,
): Promise<void> =>
  changeAttached(app, grant, async (tx) => {
    const { numUpdatedRows } = await tx
      .updateTable('attachment')
      .set({ away_at: away ? new Date() : null })
      .where('id', '=', id)
      .where('page_id', '=', grant.thing.id)
      .where('undone', '=', false)
      .executeTakeFirst();
    if (numUpdatedRows === 0n) throw new Refusal(404, 'There is no such thing attached here.');
  });

/** Attaches a link, which is looked at then. @throws Refusal when it is none */
export async function attachLink(
  app: Using<'db' | 'news' | 'jobs' | 'limits'>,
  grant: Grant<'do own work'>,
  text: string,
): Promise<void> {
  const { thing, person } = grant;
  const read = readLink(text);
  if ('fault' in read) throw new Refusal(422, read.fault);
  await app.limits.count('link looked at', person.id, 1);
  await changeAttached(
    app,
    grant,
    async (tx, { school }) => {
      const { id } = await tx
        .insertInto('attachment')
        .values({
          school_id: school,
          page_id: thing.id,
          url: read.url,
          made_by: person.id,
          found: 'not looked at yet',
        })
        .returning('id')
        .executeTakeFirstOrThrow();
      await askToLook(app.jobs, tx, school, { attachment: id, keep: false });
    },
    ({ attached }) => refuseTooMany(attached.length),
  );
}

/** Looks once more at every link of a copy that others could not open. */
export async function lookAtLinks(
  app: Using<'db' | 'jobs' | 'limits'>,
  grant: Grant<'comment'>,
): Promise<void> {
  const links = await app.db
    .selectFrom('attachment')
    .select('id')
    .where('page_id', '=', grant.thing.id)
    .where('url', 'is not', null)
    .where('away_at', 'is', null)
    .where('found', '=', 'cannot be opened')
    .execute();
  for (const { id } of links) await lookAgain(app, grant, id);
}

/** Looks once more whether others can open a link. @throws Refusal when it is none */
export async function lookAgain(
  app: Using<'db' | 'jobs' | 'limits'>,
  { thing, person }: Grant<'comment'>,
  id: string,
): Promise<void> {
  await app.limits.count('link looked at', person.id, 1);
  await inTransaction(app.db, async (tx) => {
    const row = await tx
      .selectFrom('attachment')
      .select(['school_id', 'url'])
      .where('id', '=', id)
      .where('page_id', '=', thing.id)
      .executeTakeFirst();
    if (!row) throw new Refusal(404, 'There is no such link attached here.');
    if (row.url !== null)
      await askToLook(app.jobs, tx, row.school_id, { attachment: id, keep: false });
  });
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

interface Which {
  id: string;
  /** Of a link: what stood there when it was handed in last. */
  kept: boolean;
}

/** The file that is attached to a page, or was; of a link what was kept of it. @returns undefined where there is none */
const findFile = (db: Database, { thing }: Grant<'read the page'>, { id, kept }: Which) =>
  db
    .selectFrom('attachment')
    .leftJoin('link_snapshot', 'link_snapshot.attachment_id', 'attachment.id')
    .innerJoin('upload', (join) =>
      join.onRef('upload.id', '=', kept ? 'link_snapshot.upload_id' : 'attachment.upload_id'),
    )
    .select(['upload.id', 'name', 'type', 'size'])
    .select([kept ? 'link_snapshot.shown' : 'attachment.shown'])
    .where('attachment.id', '=', id)
    .where('attachment.page_id', '=', thing.id)
    .where('attachment.undone', '=', false)
    .orderBy('link_snapshot.at', 'desc')
    .executeTakeFirst();

/** A file that is, or was, attached to a page that somebody may read. @throws Refusal when there is none */
export async function openAttached(
  app: Using<'db'>,
  grant: Grant<'read the page'>,
  which: Which,
): Promise<AttachedFile> {
  const row = await findFile(app.db, grant, which);
  if (!row) throw new Refusal(404, 'There is no such file.');
  const { id, name, type } = row;
  return { name, type, size: Number(row.size), bytes: (range) => readBytes(app.db, id, range) };
}

/** A document that is attached, as a page, and what of it stayed behind. @throws Refusal when there is none */
export async function readAttachedPage(
  app: Using<'db'>,
  grant: Grant<'read the page'>,
  which: Which,
): Promise<{ doc: object; left: string[] }> {
  const row = await findFile(app.db, grant, which);
  const shown = z
    .object({ doc: z.looseObject({}), left: z.array(z.string()) })
    .safeParse(row?.shown);
  if (!shown.success) throw new Refusal(404, 'There is no such page.');
  return shown.data;
}
