import { fileTypeFromBuffer } from 'file-type';
import { MOST_BYTES } from '$core/stamps/stamp';
import type { Grant } from '../access/grant';
import { inTransaction } from '../db/transaction';
import type { Connection } from '../page/page-store';
import { Refusal } from '../page/refusal';
import type { Using } from '../services';

type Keeps = Grant<'keep a phrasebook'>;

/** A stamp of somebody's own. */
export interface OwnStamp {
  id: string;
  word: string;
  away: boolean;
}
/** So many stamps one person keeps. */
const MOST = 60;

/** One's own stamps in the order they were made; those that are removed, too. */
export async function readStamps(db: Connection, { person }: Keeps): Promise<OwnStamp[]> {
  const rows = await db
    .selectFrom('stamp')
    .select(['id', 'word', 'away_at'])
    .where('owner_id', '=', person.id)
    .orderBy('made_at')
    .orderBy('id')
    .execute();
  return rows.map(({ id, word, away_at }) => ({ id, word, away: away_at !== null }));
}

/** @throws Refusal when it is no PNG, or too large a one */
export async function checkStampPicture(picture: Buffer): Promise<void> {
  if (picture.length > MOST_BYTES) throw new Refusal(413, 'This picture is too large for a stamp.');
  const type = await fileTypeFromBuffer(picture);
  if (type?.mime !== 'image/png')
    throw new Refusal(422, 'This is no picture that can be a stamp. Choose another one.');
}

/** Adds a stamp. @param picture a PNG @returns its id @throws Refusal when it is none */
export async function addStamp(
  app: Using<'db'>,
  { person }: Keeps,
  { word, picture }: { word: string; picture: Buffer },
): Promise<string> {
  await checkStampPicture(picture);
  return inTransaction(app.db, async (tx) => {
    // Two who add at once know of each other.
    await tx
      .selectFrom('person')
      .select('id')
      .where('id', '=', person.id)
      .forNoKeyUpdate()
      .execute();
    const there = await tx
      .selectFrom('stamp')
      .select('id')
      .where('owner_id', '=', person.id)
      .where('away_at', 'is', null)
      .execute();
    if (there.length >= MOST)
      throw new Refusal(413, `You have ${MOST} stamps. Remove one of them first.`);
    const { id } = await tx
      .insertInto('stamp')
      .values({ school_id: person.school_id, owner_id: person.id, word, picture })
      .returning('id')
      .executeTakeFirstOrThrow();
    return id;
  });
}

/** Changes the word of one's own stamp, or removes it and brings it back. Where it was put, it stays as it was. */
export async function changeStamp(
  app: Using<'db'>,
  { person }: Keeps,
  { id, ...change }: { id: string; word: string } | { id: string; away: boolean },
): Promise<void> {
  const changed = await app.db
    .updateTable('stamp')
    .set('word' in change ? change : { away_at: change.away ? new Date() : null })
    .where('id', '=', id)
    .where('owner_id', '=', person.id)
    .returning('id')
    .executeTakeFirst();
  if (!changed) throw new Refusal(404, 'This stamp is none of yours any more.');
}

/** The picture of a stamp of somebody's school, though it was removed since. @throws Refusal where there is none */
export async function readPicture(
  app: Using<'db'>,
  { person }: Grant<'be signed in'>,
  id: string,
): Promise<Buffer> {
  const row = await app.db
    .selectFrom('stamp')
    .select('picture')
    .where('id', '=', id)
    .where('school_id', '=', person.school_id)
    .executeTakeFirst();
  if (!row) throw new Refusal(404, 'There is no such stamp.');
  return row.picture;
}
