import { sql } from 'kysely';
import { LONGEST_WORD } from '$core/stamps/stamp';
import type { Tx } from '../db/transaction';
import { namePicture } from '../file/picture-name';
import { checkStampPicture } from '../phrasebook/stamps';
import type { BagReader } from './bag-reader';
import type { BagWriter } from './bag-writer';
import { brokenRecord, type Thing } from './read-record';

/** The digest that names the picture of a teacher's own stamp. The row in the query: `stamp`. */
export const STAMP_HASH = sql<string>`encode(sha256(stamp.picture), 'hex')`;

/**
 * Writes the pictures of teachers' own stamps on the pages of an archive: to be looked at, and for its record.
 * @param there pictures that are there already, by their digests
 */
export async function writeStampPictures(
  tx: Tx,
  bag: BagWriter,
  there: ReadonlyMap<string, string>,
): Promise<void> {
  const { rows } = await sql<{ hash: string; picture: Buffer }>`
    select distinct on (hash) ${STAMP_HASH} as hash, picture from archived_thread numbered
    join thread on thread.id = numbered.id join stamp on stamp.id = (thread.stamp ->> 'id')::uuid
    order by hash`.execute(tx);
  for (const { hash, picture } of rows.filter((row) => !there.has(row.hash))) {
    await bag.add(`pictures/${hash}.png`, picture);
    await bag.add(`record/files/${hash}`, picture);
  }
}

type ThreadRecord = Thing<'threads.ndjson'>;

/**
 * Takes in the stamps of an archive: each is of whoever put it on a page. Who does not have it yet does not find it among
 * those to be put on a page.
 * @throws Refusal for a picture that is another
 */
export class ArchivedStamps {
  private readonly made = new Map<string, string>();
  constructor(
    private readonly tx: Tx,
    private readonly bag: BagReader,
    private readonly school: number,
    private readonly people: ReadonlyMap<number, string>,
  ) {}

  /** A thread's stamp, as it is kept with it; null for none. */
  async take({ stamp, by, at, comments }: ThreadRecord): Promise<object | null> {
    if (stamp?.kind !== 'own') return stamp;
    const key = `${by} ${stamp.picture}`;
    const id =
      this.made.get(key) ??
      (await this.make(stamp.picture, {
        by,
        at,
        word: (comments[0]?.text ?? '').slice(0, LONGEST_WORD) || '·',
      }));
    this.made.set(key, id);
    return { kind: 'own', id };
  }

  private async make(hash: string, of: { by: number; at: string; word: string }): Promise<string> {
    const file = `files/${hash}`;
    const picture = await this.bag.bytes(`data/record/${file}`);
    const owner_id = this.people.get(of.by);
    await checkStampPicture(picture);
    if (!owner_id || (await namePicture(picture)).name !== hash)
      throw brokenRecord(file, 'there is another picture.');
    const known = await this.tx
      .selectFrom('stamp')
      .select('id')
      .where('owner_id', '=', owner_id)
      .where(STAMP_HASH, '=', hash)
      .executeTakeFirst();
    if (known) return known.id;
    const at = new Date(of.at);
    const { id } = await this.tx
      .insertInto('stamp')
      .values({
        school_id: this.school,
        owner_id,
        word: of.word,
        picture,
        made_at: at,
        away_at: at,
      })
      .returning('id')
      .executeTakeFirstOrThrow();
    return id;
  }
}
