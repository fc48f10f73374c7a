import { sql } from 'kysely';
import { createWriteStream } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { Grant } from '../access/grant';
import { grantByRole } from '../access/in-the-name-of';
import { connect, type Database } from '../db/connect';
import { onOwnConnection, inTransaction } from '../db/transaction';
import { notify } from '../message/messages';
import { refusalIn, Refusal } from '../page/refusal';
import type { Using } from '../services';
import { readPieces } from './archives';
import { BagReader } from './bag-reader';
import { checkHistories } from './check-history';
import { makeClass } from './make-class';
import { readArchivedClass } from './read-record';

/** Of an archive that is brought, in bytes. */
const MOST_BYTES = 2_000_000_000;
/** Of a piece of it. */
const MOST_PIECE = 10_000_000;

/** A day, in milliseconds. */
const FORGOTTEN_AFTER = 86_400_000;

type Bringing = Grant<'manage courses'>;

/** An archive that somebody is about to bring. @returns its id */
export async function beginBringing(
  db: Database,
  { person }: Bringing,
  { name, size }: { name: string; size: number },
): Promise<string> {
  if (size > MOST_BYTES)
    throw new Refusal(413, 'This archive is larger than 2 GB, which is more than is taken.');
  // What was begun and never came is forgotten.
  await db
    .deleteFrom('archive')
    .where('kind', '=', 'brought')
    .where('made_by', '=', person.id)
    .where('total', '=', 0)
    .where('made_at', '<', new Date(Date.now() - FORGOTTEN_AFTER))
    .execute();
  const { id } = await db
    .insertInto('archive')
    .values({ school_id: person.school_id, kind: 'brought', made_by: person.id, name, size })
    .returning('id')
    .executeTakeFirstOrThrow();
  return id;
}

/** What is brought and not complete yet, of one's own. @throws Refusal */
async function findBringing(db: Database, { person }: Bringing, id: string) {
  const row = await db
    .selectFrom('archive')
    .select(['id', 'name', 'size', 'school_id'])
    .where('id', '=', id)
    .where('made_by', '=', person.id)
    .where('kind', '=', 'brought')
    .where('total', '=', 0)
    .where('finished_at', 'is', null)
    .executeTakeFirst();
  if (!row) throw new Refusal(404, 'This archive is not being brought. Please choose it again.');
  return row;
}

/** Takes in one piece of it; sent twice, it is there once. @throws Refusal */
export async function bringPiece(
  db: Database,
  grant: Bringing,
  { archive, n, bytes }: { archive: string; n: number; bytes: Buffer },
): Promise<void> {
  const { id } = await findBringing(db, grant, archive);
  if (bytes.length > MOST_PIECE || n * MOST_PIECE > MOST_BYTES)
    throw new Refusal(413, 'This piece is larger than pieces are.');
  await db
    .insertInto('archive_piece')
    .values({ archive_id: id, n, bytes })
    .onConflict((conflict) => conflict.columns(['archive_id', 'n']).doUpdateSet({ bytes }))
    .execute();
}

/** All of it is here: the job opens it. @throws Refusal when pieces are missing */
export async function endBringing(
  app: Using<'db' | 'jobs'>,
  grant: Bringing,
  archive: string,
): Promise<void> {
  const { id, size, school_id } = await findBringing(app.db, grant, archive);
  await inTransaction(app.db, async (tx) => {
    const { here } = await tx
      .selectFrom('archive_piece')
      .select((eb) =>
        eb.fn.coalesce(eb.fn.sum<string>(eb.fn('length', ['bytes'])), eb.val('0')).as('here'),
      )
      .where('archive_id', '=', id)
      .executeTakeFirstOrThrow();
    if (Number(here) !== Number(size))
      throw new Refusal(409, 'A part of this archive did not arrive. Please choose it again.');
    const begun = await tx
      .updateTable('archive')
      .set({ total: 1 })
      .where('id', '=', id)
      .where('total', '=', 0)
      .returning('id')
      .executeTakeFirst();
    if (begun) await app.jobs.put(tx, school_id, 'open archive', { archive: id });
  });
}

/** The archives that somebody brought, newest first. */
export async function readBrought(db: Database, { person }: Bringing) {
  const rows = await db
    .selectFrom('archive')
    .leftJoin('class', 'class.id', 'archive.class_id')
    .leftJoin('course', 'course.id', 'class.course_id')
    .select(['archive.id', 'archive.name', 'total', 'done', 'fault', 'finished_at', 'made_at'])
    .select(['class.id as class', 'class.name as className', 'course.title'])
    .where('kind', '=', 'brought')
    .where('made_by', '=', person.id)
    .where('total', '>', 0)
    .orderBy('made_at', 'desc')
    .limit(20)
    .execute();
  return rows.map(({ finished_at, made_at, ...row }) => ({
    ...row,
    finished: finished_at?.getTime() ?? null,
    made: made_at.getTime(),
  }));
}

/** The job: opens an archive that was brought, as an archived class. What cannot be opened says why, and is done with. */
export async function openArchive(
  app: Using<'db' | 'indexer' | 'settings'>,
  id: string,
): Promise<void> {
  const row = await app.db
    .selectFrom('archive')
    .selectAll()
    .where('id', '=', id)
    .where('finished_at', 'is', null)
    .executeTakeFirst();
  if (!row) return;
  const folder = await mkdtemp(join(tmpdir(), 'uncia-archive-'));
  const own = connect(app.settings.DATABASE_URL, 1);
  try {
    await grantByRole(app.db, 'manage courses', row.made_by);
    const path = join(folder, 'archive.zip');
    await pipeline(Readable.from(readPieces(app.db, id)), createWriteStream(path));
    const say = async (done: number, total: number) => {
      await app.db
        .updateTable('archive')
        .set({ done, total: Math.max(1, total) })
        .where('id', '=', id)
        .execute();
    };
    // Looking at it is half of the way.
    const bag = await BagReader.open(path, (done, total) => say(done, total * 2));
    try {
      const record = await readArchivedClass(bag);
      const made = await onOwnConnection(own, 'what is new', async (tx) => {
        const opening = { school: row.school_id, by: row.made_by };
        const made = await makeClass(tx, bag, record, opening, (done, total) =>
          say(total + done, total * 2),
        );
        await checkHistories(tx);
        await sql`select pack_steps(id) from archived_page`.execute(tx);
        const first = await tx
          .updateTable('archive')
          .set({ class_id: made.class, finished_at: new Date(), fault: null })
          .where('id', '=', id)
          .where('finished_at', 'is', null)
          .returning('id')
          .executeTakeFirst();
        if (!first) throw new Refusal(409, 'This archive was opened already.');
        await notify(tx, {
          school: row.school_id,
          people: [row.made_by],
          cause: `archive ${id}`,
          fact: { kind: 'archive opened', name: row.name, fault: null },
          link: `/classes/${made.class}/archive`,
        });
        return made;
      });
      for (const page of made.pages) app.indexer.touch(page);
    } finally {
      bag.close();
    }
  } catch (error) {
    const refusal = refusalIn(error) ?? dataRefusal(error);
    if (!refusal) throw error;
    await giveUp(app.db, row, refusal.message);
  } finally {
    await own.destroy();
    await rm(folder, { recursive: true, force: true });
  }
  await app.db.deleteFrom('archive_piece').where('archive_id', '=', id).execute();
}

/** A record whose parts do not fit each other is refused by what the database knows of them. */
function dataRefusal(error: unknown): Refusal | null {
  const code = error instanceof Error && 'code' in error ? String(error.code) : '';
  return /^(22|23)/.test(code)
    ? new Refusal(
        422,
        'The record of this archive does not hold together: a part names another that is not there. Nothing was taken from it.',
      )
    : null;
}

async function giveUp(
  db: Database,
  {
    id,
    name,
    school_id,
    made_by,
  }: { id: string; name: string; school_id: number; made_by: string },
  fault: string,
): Promise<void> {
  await inTransaction(db, async (tx) => {
    await tx
      .updateTable('archive')
      .set({ finished_at: new Date(), fault })
      .where('id', '=', id)
      .where('finished_at', 'is', null)
      .execute();
    await notify(tx, {
      school: school_id,
      people: [made_by],
      cause: `archive ${id}`,
      fact: { kind: 'archive opened', name, fault },
      link: '/classes/open',
    });
  });
}
