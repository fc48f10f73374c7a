import { sql } from 'kysely';
import type { AnswerKey } from '$core/marking/answer-key';
import type { Keys } from '$core/marking/key-changes';
import type { Grant } from '../access/grant';
import type { Database } from '../db/connect';
import type { Connection } from '../page/page-store';

/** What the teacher expects in each part. For staff only. */
export const readKeys = async (db: Connection, page: string): Promise<Keys> =>
  (await readKeysOf(db, [page])).get(page) ?? {};

/** How many parts of a page have a key. */
export const keysOf = (page: string) =>
  sql<number>`(select count(*)::int from answer_key where answer_key.page_id = ${sql.ref(page)})`;

/** What a copy began as, and the assignment's original that it stands for. */
interface CopyOrigin {
  source: string;
  for: string;
}

/** The page whose keys count for each copy: the one it began as, or, where it began as a shared copy, the assignment's original. */
export async function readKeyPages(
  db: Connection,
  copies: readonly CopyOrigin[],
): Promise<(copy: CopyOrigin) => string> {
  const shared = await db
    .selectFrom('page')
    .select('id')
    .where(
      'id',
      'in',
      copies.map(({ source }) => source),
    )
    .where('kind', '=', 'copy')
    .execute();
  const isShared = new Set(shared.map(({ id }) => id));
  return (copy) => (isShared.has(copy.source) ? copy.for : copy.source);
}

/** The keys of several pages, by page. */
export async function readKeysOf(
  db: Connection,
  pages: readonly string[],
): Promise<Map<string, Keys>> {
  const rows = await db
    .selectFrom('answer_key')
    .select(['page_id', 'part_id', 'body'])
    .where('page_id', 'in', [...new Set(pages)])
    .execute();
  const keys = new Map(pages.map((page): [string, Keys] => [page, {}]));
  for (const row of rows) {
    const own = keys.get(row.page_id);
    if (own) own[row.part_id] = row.body as AnswerKey;
  }
  return keys;
}

/** The keys for a copy. */
export async function readCopyKeys(db: Connection, copy: CopyOrigin): Promise<Keys> {
  const pageOf = await readKeyPages(db, [copy]);
  return readKeys(db, pageOf(copy));
}

/** Sets or, with null, takes away what is expected in one part. @returns what is expected in all of them then */
export async function writeKey(
  db: Database,
  { thing: { id: page_id, school_id } }: Grant<'manage the page'>,
  part_id: string,
  key: AnswerKey | null,
): Promise<Keys> {
  if (key)
    await db
      .insertInto('answer_key')
      .values({ page_id, school_id, part_id, body: JSON.stringify(key) })
      .onConflict((conflict) =>
        conflict.columns(['page_id', 'part_id']).doUpdateSet({ body: JSON.stringify(key) }),
      )
      .execute();
  else
    await db
      .deleteFrom('answer_key')
      .where('page_id', '=', page_id)
      .where('part_id', '=', part_id)
      .execute();
  return readKeys(db, page_id);
}
