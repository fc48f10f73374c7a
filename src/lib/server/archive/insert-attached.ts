import { sql } from 'kysely';
import { schema } from '$core/page/schema';
import type { Tx } from '../db/transaction';
import { MOST_PIECE } from '../attached/uploads';
import { tellType, TOLD_BY } from '../attached/tell-type';
import { ascendingIds } from './ascending-ids';
import type { BagReader } from './bag-reader';
import { idOf, insertNumbers } from './insert-rows';
import { brokenRecord, eachOf, type Thing } from './read-record';

type Line = Thing<'attached.ndjson'>;

/** What was attached to pages, with its files. An older archive has none of it. */
export async function insertAttached(tx: Tx, bag: BagReader, school: number): Promise<void> {
  if (!bag.has('data/record/attached.ndjson')) return;
  const newId = ascendingIds();
  await eachOf(bag, 'attached.ndjson', async (batch) => {
    const ids = new Map(batch.map(({ n }) => [n, newId(n)]));
    await insertNumbers(
      tx,
      'attachment',
      [...ids].map(([n, id]) => ({ n, id })),
    );
    for (const line of batch) await insertOne(tx, bag, school, line);
  });
}

async function insertOne(tx: Tx, bag: BagReader, school: number, line: Line) {
  const { n, url, file, at, away, found, shown, kept } = line;
  if ((url === null) === (file === null))
    throw brokenRecord('attached.ndjson', 'something is neither a file nor a link.');
  const upload = file && (await insertFile(tx, bag, { school, line, file, at }));
  await sql`insert into attachment (id, school_id, page_id, upload_id, url, made_by, at, away_at, found, shown)
    values (${idOf('attachment', String(n))}, ${school}, ${idOf('page', String(line.page))}, ${upload}::uuid, ${url},
      ${idOf('person', String(line.by))}, ${at}, ${away}, ${found}, ${pageOf(shown)}::jsonb)`.execute(
    tx,
  );
  const newId = ascendingIds();
  for (const [index, one] of kept.entries()) {
    const stood = await insertFile(tx, bag, { school, line, file: one, at: one.at });
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
async function insertFile(tx: Tx, bag: BagReader, { school, line, file, at }: FileOfLine) {
  const { rows } = await sql<{ id: string }>`
    insert into upload (school_id, person_id, page_id, name, size, made_at, finished_at)
    values (${school}, ${idOf('person', String(line.by))}, ${idOf('page', String(line.page))}, ${file.name}, 1, ${at}, ${at})
    returning id`.execute(tx);
  const id = rows[0]?.id ?? '';
  let size = 0;
  let begins = Buffer.alloc(0);
  for await (const bytes of bag.pieces(`data/${file.path}`, MOST_PIECE)) {
    await tx.insertInto('upload_piece').values({ upload_id: id, starts: size, bytes }).execute();
    size += bytes.length;
    if (begins.length < TOLD_BY) begins = Buffer.concat([begins, bytes]).subarray(0, TOLD_BY);
  }
  if (size === 0) throw brokenRecord('attached.ndjson', `“${file.name}” is empty.`);
  const type = await tellType(begins, file.name);
  await tx.updateTable('upload').set({ size, received: size, type }).where('id', '=', id).execute();
  return id;
}
