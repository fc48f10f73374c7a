import { sql } from 'kysely';
import type { AnswerKey } from '$core/marking/answer-key';
import type { Grant } from '../access/grant';
import type { Database } from '../db/connect';
import type { Connection } from '../page/page-store';

/** What the teacher expects in each part. For staff only. */
export async function readKeys(db: Connection, page: string): Promise<Record<string, AnswerKey>> {
  const rows = await db
    .selectFrom('answer_key')
    .select(['part_id', 'body'])
    .where('page_id', '=', page)
    .execute();
  return Object.fromEntries(rows.map((row) => [row.part_id, row.body as AnswerKey]));
}

/** How many parts of a page have a key. */
export const keysOf = (page: string) =>
  sql<number>`(select count(*)::int from answer_key where answer_key.page_id = ${sql.ref(page)})`;

/** The keys for a copy: those of the page it began as, or, where it began as a shared copy, of the assignment's original. */
export async function readCopyKeys(
  db: Connection,
  { source, for: original }: { source: string; for: string },
): Promise<Record<string, AnswerKey>> {
  const { kind } = await db
    .selectFrom('page')
    .select('kind')
    .where('id', '=', source)
    .executeTakeFirstOrThrow();
  return readKeys(db, kind === 'copy' ? original : source);
}

/** Sets or, with null, takes away what is expected in one part. @returns what is expected in all of them then */
export async function writeKey(
  db: Database,
  { thing: { id: page_id, school_id } }: Grant<'manage the page'>,
  part_id: string,
  key: AnswerKey | null,
): Promise<Record<string, AnswerKey>> {
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
