import { createReadStream } from 'node:fs';
import { mkdtemp, rm, stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { FileNames } from '$core/archive/file-names';
import type { Grant } from '../access/grant';
import { grantInClass } from '../access/in-the-name-of';
import { downloadStream } from '../http/download';
import { connect, type Database } from '../db/connect';
import { inTransaction, onOwnConnection, type Tx } from '../db/transaction';
import type { PutJob } from '../jobs/jobs';
import { notify } from '../message/messages';
import { refusalIn, Refusal } from '../page/refusal';
import type { Using } from '../services';
import { BagWriter } from './bag-writer';
import { writeBag } from './write-bag';

/** Of an archive so much is kept and read at once, in bytes. */
const PIECE = 1_000_000;

/** Begins an archive of a class, or of a student's work in it, as part of a transaction; the job makes it. @returns its id */
export async function beginArchive(
  jobs: PutJob,
  tx: Tx,
  of: { class: string; student: string | null; school: number; by: string },
): Promise<string> {
  const { id } = await tx
    .insertInto('archive')
    .values({
      school_id: of.school,
      kind: of.student === null ? 'whole' : 'take-home',
      class_id: of.class,
      student_id: of.student,
      made_by: of.by,
      name: '',
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  await jobs.put(tx, of.school, 'write archive', { archive: id });
  return id;
}

/** Begins an archive, unless one is being made already: pressed twice, it is made once. */
const beginOnce = (
  app: Using<'db' | 'jobs'>,
  { thing: klass, person }: Grant<'see own workbook'> | Grant<'keep the archive'>,
  student: string | null,
): Promise<void> =>
  inTransaction(app.db, async (tx) => {
    await tx.selectFrom('class').select('id').where('id', '=', klass.id).forNoKeyUpdate().execute();
    const running = await tx
      .selectFrom('archive')
      .select('id')
      .where('class_id', '=', klass.id)
      .where('kind', '<>', 'brought')
      .where('student_id', student === null ? 'is' : '=', student)
      .where('finished_at', 'is', null)
      .where('fault', 'is', null)
      .executeTakeFirst();
    if (running) return;
    const of = { class: klass.id, student, school: klass.school_id, by: person.id };
    await beginArchive(app.jobs, tx, of);
  });

/** A student's own work in a class, to take home. */
export const beginTakeHome = (
  app: Using<'db' | 'jobs'>,
  grant: Grant<'see own workbook'>,
): Promise<void> => beginOnce(app, grant, grant.person.id);

/** The archive of an archived class, made once more. */
export const makeArchiveAgain = (
  app: Using<'db' | 'jobs'>,
  grant: Grant<'keep the archive'>,
): Promise<void> => beginOnce(app, grant, null);

const newest = (db: Database, klass: string, student: string | null) =>
  db
    .selectFrom('archive')
    .select(['id', 'name', 'total', 'done', 'size', 'made_at', 'finished_at', 'fault'])
    .where('class_id', '=', klass)
    .where('kind', '<>', 'brought')
    .where('student_id', student === null ? 'is' : '=', student)
    .orderBy('made_at', 'desc')
    .limit(1);

/** How far the newest archive of a class, or of a student's work in it, is. */
export async function readNewestArchive(db: Database, klass: string, student: string | null) {
  const row = await newest(db, klass, student).executeTakeFirst();
  if (!row) return null;
  const { made_at, finished_at, size, ...archive } = row;
  return {
    ...archive,
    size: Number(size),
    made: made_at.getTime(),
    finished: finished_at?.getTime() ?? null,
  };
}

export const readTakeHome = (db: Database, { thing, person }: Grant<'see own workbook'>) =>
  readNewestArchive(db, thing.id, person.id);

/** The job: makes an archive from one moment of its class. It may begin again whenever its process died. */
export async function writeArchive(
  app: Using<'db' | 'jobs' | 'settings'>,
  id: string,
): Promise<void> {
  const row = await app.db
    .selectFrom('archive')
    .selectAll()
    .where('id', '=', id)
    .where('finished_at', 'is', null)
    .executeTakeFirst();
  if (!row?.class_id) return;
  const archived = { class: row.class_id, student: row.student_id, by: row.made_by };
  const line = row.student_id === null ? 'see the class' : 'see own workbook';
  const folder = await mkdtemp(join(tmpdir(), 'uncia-archive-'));
  // It looks at the class as it stands at one moment, and says meanwhile how far it is.
  const own = connect(app.settings.DATABASE_URL, 1);
  try {
    // Who asked for it may have lost the class since.
    await grantInClass(app.db, line, row.made_by, row.class_id);
    const path = join(folder, 'archive.zip');
    const name = await onOwnConnection(own, 'one moment', async (tx) => {
      const { title, bag } = await writeBag(
        tx,
        archived,
        (named, at) => new BagWriter(path, new FileNames().give(named), at),
        seldom((done, total) => say(app.db, id, { done, total })),
      );
      await bag.finish([
        ['External-Description', title],
        ['External-Identifier', archived.class],
        ['Bagging-Date', new Date().toISOString().slice(0, 10)],
        ['Bag-Software-Agent', 'Uncia'],
      ]);
      return title;
    });
    await keep(app, row, path, name);
  } catch (error) {
    await say(app.db, id, {
      fault: refusalIn(error)?.message ?? 'It stopped on the way, and is tried again.',
    });
    throw error;
  } finally {
    await own.destroy();
    await rm(folder, { recursive: true, force: true });
  }
}

/** Progress is said twice a second at most. */
const SAY_EVERY = 500;
function seldom(
  tell: (done: number, total: number) => Promise<void>,
): (done: number, total: number) => Promise<void> {
  let last = 0;
  return async (done, total) => {
    if (Date.now() - last < SAY_EVERY && done < total) return;
    last = Date.now();
    await tell(done, total);
  };
}

const say = async (
  db: Database,
  id: string,
  how: { done: number; total: number } | { fault: string },
): Promise<void> => {
  await db
    .updateTable('archive')
    .set({ fault: null, ...how })
    .where('id', '=', id)
    .execute();
};

/** In milliseconds: somebody may be downloading the archive before. */
const FORERUNNERS_STAY = 3_600_000;

/** Keeps the bytes of a file as pieces; the archive is finished with the last. Its forerunners make room later. */
async function keep(
  { db, jobs }: Using<'db' | 'jobs'>,
  of: {
    id: string;
    class_id: string | null;
    student_id: string | null;
    school_id: number;
    made_by: string;
  },
  path: string,
  name: string,
): Promise<void> {
  await keepPieces(db, of.id, createReadStream(path, { highWaterMark: PIECE }));
  const { size } = await stat(path);
  await inTransaction(db, async (tx) => {
    const finished = await tx
      .updateTable('archive')
      .set({ finished_at: new Date(), size, name: new FileNames().give(name, '.zip'), fault: null })
      .where('id', '=', of.id)
      .where('finished_at', 'is', null)
      .returning('id')
      .executeTakeFirst();
    if (!finished) return;
    const later = new Date(Date.now() + FORERUNNERS_STAY);
    await jobs.put(tx, of.school_id, 'forget archives', { before: of.id }, later);
    await notify(tx, {
      school: of.school_id,
      people: [of.made_by],
      cause: `archive ${of.id}`,
      fact: { kind: 'archive made', name },
      link:
        of.student_id === null
          ? `/classes/${of.class_id}/archive`
          : `/classes/${of.class_id}/workbook`,
    });
  });
}

/** The job: forgets the finished archives of the same class or work that were begun before one. */
export async function forgetForerunners(db: Database, before: string): Promise<void> {
  await db
    .deleteFrom('archive')
    .using('archive as next')
    .where('next.id', '=', before)
    .whereRef('archive.class_id', '=', 'next.class_id')
    .whereRef('archive.kind', '=', 'next.kind')
    .whereRef('archive.student_id', 'is not distinct from', 'next.student_id')
    .whereRef('archive.made_at', '<', 'next.made_at')
    .where('archive.finished_at', 'is not', null)
    .execute();
}

/** Keeps bytes under an archive, in order; those that were kept before make room. */
async function keepPieces(
  db: Database,
  archive: string,
  pieces: AsyncIterable<Buffer>,
): Promise<void> {
  await db.deleteFrom('archive_piece').where('archive_id', '=', archive).execute();
  let n = 0;
  for await (const bytes of pieces) {
    await db.insertInto('archive_piece').values({ archive_id: archive, n: n++, bytes }).execute();
  }
}

/** The last finished archive, as a file, also while the next is being made. @throws Refusal when there is none yet */
async function download(db: Database, klass: string, student: string | null): Promise<Response> {
  const archive = await newest(db, klass, student)
    .where('finished_at', 'is not', null)
    .executeTakeFirst();
  if (!archive) throw new Refusal(404, 'This archive is not made yet.');
  return downloadStream(archive.name, 'application/zip', {
    size: Number(archive.size),
    pieces: readPieces(db, archive.id),
  });
}

export const downloadArchive = (db: Database, { thing }: Grant<'download the archive'>) =>
  download(db, thing.id, null);

export const downloadTakeHome = (db: Database, { thing, person }: Grant<'see own workbook'>) =>
  download(db, thing.id, person.id);

/** The bytes of an archive, piece by piece. */
export async function* readPieces(db: Database, archive: string): AsyncGenerator<Buffer> {
  for (let n = 0; ; n++) {
    const piece = await db
      .selectFrom('archive_piece')
      .select('bytes')
      .where('archive_id', '=', archive)
      .where('n', '=', n)
      .executeTakeFirst();
    if (!piece) return;
    yield piece.bytes;
  }
}
