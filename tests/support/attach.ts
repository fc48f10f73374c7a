import type { App } from '../../src/lib/server/app';
import { grantOnPage } from '../../src/lib/server/access/in-the-name-of';
import { attachLink } from '../../src/lib/server/attached/attach';
import { onCopy } from '../../src/lib/server/attached/receive-on-copy';
import { beginUpload, takePiece } from '../../src/lib/server/attached/uploads';
import { withComment } from '../../src/lib/server/copy/said-files';

interface Where {
  page: string;
  person: string;
}

/** A student attaches a file to a copy, in pieces of so many bytes. @returns what is attached then */
export async function attachBytes(
  app: App,
  { page, person }: Where,
  { name, bytes, piece = bytes.length }: { name: string; bytes: Buffer; piece?: number },
): Promise<string> {
  const to = onCopy(app, await grantOnPage(app, 'do own work', person, page));
  const { id } = await beginUpload(app, to, { name, size: bytes.length });
  for (let at = 0; at < bytes.length; at += piece)
    await takePiece(app, to, id, { at, bytes: bytes.subarray(at, at + piece) });
  const { id: attachment } = await app.db
    .selectFrom('attachment')
    .select('id')
    .where('upload_id', '=', id)
    .executeTakeFirstOrThrow();
  return attachment;
}

/** One of the staff sends a picture or a recording, which waits for the words of a comment. @returns its id */
export async function sendWithComment(
  app: App,
  { page, person }: Where,
  { name, bytes }: { name: string; bytes: Buffer },
): Promise<string> {
  const to = withComment(app, await grantOnPage(app, 'comment', person, page));
  const { id } = await beginUpload(app, to, { name, size: bytes.length });
  await takePiece(app, to, id, { at: 0, bytes });
  return id;
}

/** A student attaches a link, of which it was kept how it stood. */
export async function attachKeptLink(
  app: App,
  { page, person }: Where,
  { url, name, bytes }: { url: string; name: string; bytes: Buffer },
): Promise<void> {
  await attachLink(app, await grantOnPage(app, 'do own work', person, page), url);
  const { id, school_id } = await app.db
    .updateTable('attachment')
    .set({ found: 'fine' })
    .where('page_id', '=', page)
    .where('url', 'is not', null)
    .returning(['id', 'school_id'])
    .executeTakeFirstOrThrow();
  const { id: upload } = await app.db
    .insertInto('upload')
    .values({
      school_id,
      person_id: person,
      page_id: page,
      name,
      size: bytes.length,
      received: bytes.length,
      finished_at: new Date(),
      type: 'text/plain',
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  await app.db.insertInto('upload_piece').values({ upload_id: upload, starts: 0, bytes }).execute();
  await app.db
    .insertInto('link_snapshot')
    .values({ school_id, attachment_id: id, upload_id: upload })
    .execute();
}
