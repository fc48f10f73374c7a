import { foundOf } from '$core/attached/links';
import { documentKind, shownAs } from '$core/attached/shown-as';
import type { Found } from '$core/attached/attached';
import { recordMoveIn, publishMove } from '../copy/record-move';
import { inTransaction, type Tx } from '../db/transaction';
import { picturesIn, savePicture } from '../file/files';
import type { PutJob } from '../jobs/jobs';
import { logUnexpected } from '../log';
import { refusalIn } from '../page/refusal';
import type { Using } from '../services';
import { fetchLink, LinkFault, type Fetched } from './fetch-link';
import { readBytes } from './file-bytes';
import { storeFile } from './store-file';
import { tellType } from './tell-type';

type App = Using<'db' | 'news' | 'threads' | 'settings'>;

/** A document as a page, and what of it stayed behind. */
interface Shown {
  doc: object;
  left: string[];
}
/** Of a document that is looked at, in bytes. */
const MOST_SHOWN = 20_000_000;

/** Puts down that something attached is to be looked at. @param keep of a link: what stands there is kept */
export const askToLook = (
  jobs: PutJob,
  tx: Tx,
  school: number,
  asked: { attachment: string; keep: boolean },
): Promise<void> => jobs.put(tx, school, 'look at attached', asked);

/** All links of a copy are looked at, and what stands there is kept: when it is handed in. */
export async function keepLinks(jobs: PutJob, tx: Tx, school: number, page: string): Promise<void> {
  const links = await tx
    .selectFrom('attachment')
    .select('id')
    .where('page_id', '=', page)
    .where('url', 'is not', null)
    .where('away_at', 'is', null)
    .execute();
  for (const { id } of links) await askToLook(jobs, tx, school, { attachment: id, keep: true });
}

/** Looks at something attached: whether a document can be read, and how it looks as a page; whether others can open a link. */
export async function lookAtAttached(
  app: App,
  { attachment, keep }: { attachment: string; keep: boolean },
): Promise<void> {
  const row = await app.db
    .selectFrom('attachment')
    .leftJoin('upload', 'upload.id', 'attachment.upload_id')
    .select([
      'attachment.id',
      'attachment.page_id',
      'attachment.school_id',
      'attachment.made_by',
      'attachment.url',
      'upload.id as upload',
      'upload.name',
      'upload.type',
      'upload.size',
    ])
    .where('attachment.id', '=', attachment)
    .executeTakeFirst();
  if (!row) return;
  if (row.url === null) {
    const size = Number(row.size);
    const kind = documentKind(row.type, row.name ?? '');
    const isPdf = shownAs(row.type) === 'pdf';
    if (!row.upload || (!kind && !isPdf) || size > MOST_SHOWN)
      return settle(app, row, 'fine', null);
    const pieces: Buffer[] = [];
    for await (const piece of readBytes(app.db, row.upload, { from: 0, to: size }))
      pieces.push(piece);
    const bytes = Buffer.concat(pieces);
    try {
      if (kind)
        return await settle(
          app,
          row,
          'fine',
          await asPage(app, row, { name: `page.${kind}`, bytes }),
        );
      await app.threads.run({ kind: 'pdf', name: 'page.pdf', bytes });
      return await settle(app, row, 'fine', null);
    } catch (error) {
      return settle(app, row, foundWhenRefused(error), null);
    }
  }
  const fetched = await fetchLink(row.url, app.settings.DOCUMENTS_URL ?? '').catch(
    (error: unknown) => {
      if (error instanceof LinkFault) return null;
      throw error;
    },
  );
  const found = fetched ? foundOf(fetched) : 'cannot be opened';
  if (keep && fetched && found === 'fine') await keepSnapshot(app, row, fetched);
  await settle(app, row, found, null);
}

interface Row {
  id: string;
  page_id: string;
  school_id: number;
  made_by: string;
}

/**
 * What a file is that was not read here. One that takes too much time or memory may well be fine for others, on a busy day above all.
 * @throws what is an error, or says that too much is going on just now: the job is tried again
 */
function foundWhenRefused(error: unknown): Found {
  const refusal = refusalIn(error);
  if (!refusal || refusal.status === 503) throw error;
  return refusal.status === 413 ? 'fine' : 'cannot be read';
}

/** A document as a page; its pictures are seen by whoever reads the copy. @throws Refusal when it cannot be read */
async function asPage(
  app: App,
  { page_id, school_id, made_by }: Row,
  { name, bytes }: { name: string; bytes: Buffer },
): Promise<Shown> {
  const read = await app.threads.run({ kind: 'document', name, bytes, pictures: [] });
  for (const picture of read.carried)
    await savePicture(app.db, Buffer.from(picture), { id: made_by, school_id });
  for (const hash of picturesIn(read.page))
    await app.db
      .insertInto('picture_place')
      .values({ hash, page_id, school_id })
      .onConflict((conflict) => conflict.doNothing())
      .execute();
  return { doc: read.page, left: read.left };
}

/** What stands behind a link, as a file of the copy. */
async function keepSnapshot(app: App, row: Row & { url: string | null }, fetched: Fetched) {
  const { bytes } = fetched;
  if (bytes.length === 0) return;
  const isHtml = /^text\/html\b/i.test(fetched.type);
  const type = isHtml ? 'text/html' : await tellType(bytes, new URL(fetched.landed).pathname);
  const kind = documentKind(type, '');
  const shown = kind
    ? await asPage(app, row, { name: `page.${kind}`, bytes }).catch((error: unknown) => {
        if (!refusalIn(error)) logUnexpected(error, { part: 'snapshot of a link' });
        return null;
      })
    : null;
  await inTransaction(app.db, async (tx) => {
    const { upload } = await storeFile(tx, [bytes], {
      school_id: row.school_id,
      person_id: row.made_by,
      page_id: row.page_id,
      name: nameOfSnapshot(fetched.landed, kind),
    });
    await tx
      .insertInto('link_snapshot')
      .values({
        school_id: row.school_id,
        attachment_id: row.id,
        upload_id: upload,
        shown: shown && JSON.stringify(shown),
      })
      .execute();
  });
}

function nameOfSnapshot(landed: string, kind: string | null): string {
  const { hostname, pathname } = new URL(landed);
  const last = pathname.split('/').filter(Boolean).at(-1) ?? hostname;
  return kind && !last.includes('.') ? `${last}.${kind}` : last;
}

/** Writes down what was found, and tells whoever sees the copy. */
async function settle(app: App, { id, page_id, made_by }: Row, found: Found, shown: Shown | null) {
  const done = await inTransaction(app.db, (tx) =>
    recordMoveIn(
      tx,
      { page: page_id, person: made_by },
      () => [],
      async () => {
        await tx
          .updateTable('attachment')
          .set({ found, ...(shown && { shown: JSON.stringify(shown) }) })
          .where('id', '=', id)
          .execute();
        return null;
      },
    ),
  ).catch((error: unknown) => {
    // Nothing of an archived class changes any more.
    if (refusalIn(error)) return null;
    throw error;
  });
  if (done) publishMove(app, { page: page_id, person: made_by }, done);
}
