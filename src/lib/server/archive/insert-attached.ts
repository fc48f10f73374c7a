import { sql } from 'kysely';
import { schema } from '$core/page/schema';
import type { Tx } from '../db/transaction';
import { storeFile } from '../attached/store-file';
import { ascendingIds } from './ascending-ids';
import type { BagReader } from './bag-reader';
import { idOf, insertNumbers, readIds } from './insert-rows';
import { brokenRecord, eachOf, type Thing } from './read-record';

type Line = Thing<'attached.ndjson'>;

/** What was attached to pages, with its files. */
export async function insertAttached(tx: Tx, bag: BagReader, school: number): Promise<void> {
  const people = await readIds(tx, 'person');
  const pages = await readIds(tx, 'page');
  const newId = ascendingIds();
  await eachOf(bag, 'attached.ndjson', async (batch) => {
    const ids = new Map(batch.map(({ n }) => [n, newId(n)]));
    await insertNumbers(
      tx,
      'attachment',
      [...ids].map(([n, id]) => ({ n, id })),
    );
    for (const line of batch) await insertOne({ tx, bag, people, pages }, school, line);
  });
}

/** What an archive is read with, and the new ids by number. */
interface Opened {
  tx: Tx;
  bag: BagReader;
  people: ReadonlyMap<number, string>;
  pages: ReadonlyMap<number, string>;
}

async function insertOne(opened: Opened, school: number, line: Line) {
  const { tx } = opened;
  const { n, url, file, at, away, found, shown, kept } = line;
  if ((url === null) === (file === null))
    throw brokenRecord('attached.ndjson', 'something is neither a file nor a link.');
  const upload = file && (await insertFile(opened, { school, line, file, at }));
  await sql`insert into attachment (id, school_id, page_id, upload_id, url, made_by, at, away_at, found, shown)
    values (${idOf('attachment', String(n))}, ${school}, ${idOf('page', String(line.page))}, ${upload}::uuid, ${url},
      ${idOf('person', String(line.by))}, ${at}, ${away}, ${found}, ${pageOf(shown)}::jsonb)`.execute(
    tx,
  );
  const newId = ascendingIds();
  for (const [index, one] of kept.entries()) {
    const stood = await insertFile(opened, { school, line, file: one, at: one.at });
    await sql`insert into link_snapshot (id, school_id, attachment_id, upload_id, at, shown)
      values (${newId(index)}, ${school}, ${idOf('attachment', String(n))}, ${stood}, ${one.at}, ${pageOf(one.shown)}::jsonb)`.execute(
      tx,
    );
  }
}

/** A document as a page, which must be one. */
function pageOf(shown: Line['shown']): string | null {
  if (!shown) return null;
  try {
    schema.nodeFromJSON(shown.doc).check();
  } catch {
    throw brokenRecord('attached.ndjson', 'a document is no page.');
  }
  return JSON.stringify(shown);
}

interface FileOfLine {
  school: number;
  line: Line;
  file: { path: string; name: string };
  at: string;
}

/** Takes in the bytes of a file; what it is is told from them, whatever the archive says. @returns its id */
async function insertFile(
  { tx, bag, people, pages }: Opened,
  { school, line, file, at }: FileOfLine,
): Promise<string> {
  const [person_id, page_id] = [people.get(line.by), pages.get(line.page)];
  if (!person_id || !page_id)
    throw brokenRecord('attached.ndjson', `“${file.name}” is of nobody, or on no page.`);
  const belongs = { school_id: school, person_id, page_id, name: file.name };
  const { upload } = await storeFile(tx, bag.pieces(`data/${file.path}`), belongs, new Date(at));
  return upload;
}
