import { createWriteStream } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { sql } from 'kysely';
import type { LeftOut } from '$core/collecting/collected';
import { readBytes } from '../attached/file-bytes';
import { storeFile } from '../attached/store-file';
import type { Database } from '../db/connect';
import { inTransaction } from '../db/transaction';
import { refusalIn } from '../page/refusal';
import type { Using } from '../services';
import { sideBySide } from '../side-by-side';
import { cutStack } from './cut-stack';
import type { PartOfFile } from './part-of-file';
import { filesInZip } from './zip-files';

/**
 * The job: takes a zip archive apart into its files, or a stack of sheets into each student's. Each is there once, though the process
 * dies between two; one that cannot be read is left out with a sentence, and never stops the others.
 */
export async function takeApart(app: Using<'db' | 'threads'>, file: string): Promise<void> {
  const row = await app.db
    .selectFrom('collected')
    .innerJoin('upload', 'upload.id', 'collected.upload_id')
    .selectAll('collected')
    .select('upload.size')
    .where('collected.id', '=', file)
    .where('apart', '=', 'begun')
    .executeTakeFirst();
  if (!row) return;
  const bytes = readBytes(app.db, row.upload_id, { from: 0, to: Number(row.size) });
  try {
    if (row.cuts) await keepParts(app.db, row, await cutStack(app, bytes, row.cuts), []);
    else await unzip(app.db, row, bytes);
  } catch (error) {
    const refusal = refusalIn(error);
    if (!refusal || refusal.status === 503) throw error;
    // It stays as the file that it is.
    const leftOut = [{ path: row.path, why: refusal.message }];
    await finish(app.db, row.id, { apart: null, leftOut });
  }
}

async function unzip(db: Database, row: Row, bytes: AsyncIterable<Buffer>) {
  const folder = await mkdtemp(join(tmpdir(), 'uncia-collected-'));
  try {
    const path = join(folder, 'files.zip');
    await pipeline(Readable.from(bytes), createWriteStream(path));
    const { files, leftOut, close } = await filesInZip(path);
    try {
      const parts = files.map((file) => ({ path: file.path, bytes: file.bytes(), student: null }));
      await keepParts(db, row, parts, leftOut);
    } finally {
      close();
    }
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

type Row = {
  id: string;
  school_id: number;
  assignment_id: string;
  class_id: string;
  made_by: string;
};

/** After so many parts it is said how far it is. */
const SAID_EVERY = 10;

async function keepParts(
  db: Database,
  row: Row,
  parts: readonly PartOfFile[],
  known: readonly LeftOut[],
): Promise<void> {
  const there = await db
    .selectFrom('collected')
    .select('place')
    .where('from_id', '=', row.id)
    .execute();
  const places = new Set(there.map(({ place }) => place));
  const leftOut = [...known];
  let done = places.size;
  const say = () =>
    db
      .updateTable('collected')
      .set({ done, total: parts.length })
      .where('id', '=', row.id)
      .execute();
  await sideBySide(parts.entries(), async ([place, part]) => {
    if (places.has(place)) return;
    const why = await keepPart(db, row, place, part);
    if (why) leftOut.push({ path: part.path, why });
    if (++done % SAID_EVERY === 0) await say();
  });
  await say();
  await finish(db, row.id, { apart: 'done', leftOut });
}

/** @returns why it is left out, where it cannot be read */
async function keepPart(
  db: Database,
  { id, school_id, assignment_id, class_id, made_by }: Row,
  place: number,
  { path, bytes, student }: PartOfFile,
): Promise<string | null> {
  try {
    await inTransaction(db, async (tx) => {
      const name = path.split('/').at(-1) ?? path;
      const file = await storeFile(tx, bytes, {
        school_id,
        person_id: made_by,
        assignment_id,
        class_id,
        name,
      });
      await tx
        .insertInto('collected')
        .values({
          school_id,
          assignment_id,
          class_id,
          made_by,
          upload_id: file.upload,
          path,
          type: file.type,
          from_id: id,
          place,
          // They came together, so they stand in the order of the whole, whichever is kept first.
          at: sql<Date>`(select at from collected whole where whole.id = ${id})`,
          student_id: student,
        })
        .execute();
    });
    return null;
  } catch (error) {
    const refusal = refusalIn(error);
    if (!refusal) throw error;
    return refusal.message;
  }
}

const finish = (
  db: Database,
  id: string,
  { apart, leftOut }: { apart: 'done' | null; leftOut: readonly LeftOut[] },
) =>
  db
    .updateTable('collected')
    .set({ apart, left_out: JSON.stringify(leftOut) })
    .where('id', '=', id)
    .execute();
