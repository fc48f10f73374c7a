import { sql } from 'kysely';
import type { Keys } from '$core/marking/key-changes';
import type { Grant } from '../access/grant';
import type { Database } from '../db/connect';
import type { Using } from '../services';
import { inTransaction } from '../db/transaction';
import { Refusal } from '../page/refusal';
import { readKeys } from './answer-keys';
import { copyPages } from './copy-pages';
import { readListedPages } from './units';
import type { PageRow } from '../db/schema';
import type { Connection } from '../page/page-store';
import { readPage } from '../page/page-store';

/** What an adapted original adapts, as it was when it was last settled (`since`) and as it is now; null for others. */
export async function readBase(app: Using<'db' | 'pages'>, page: PageRow) {
  if (!page.adapted || page.from_id === null || page.from_version === null) return null;
  const base = await app.db
    .selectFrom('page')
    .select(['id', 'title', 'version', 'source_id', 'source_version'])
    .where('id', '=', page.from_id)
    .executeTakeFirstOrThrow();
  const was = await readPage(app.db, base, page.from_version);
  const is = await app.pages.open(base.id);
  const left = await app.db
    .selectFrom('adapted_left')
    .select('key')
    .where('page_id', '=', page.id)
    .execute();
  return {
    id: base.id,
    title: base.title,
    version: is.version,
    since: page.from_version,
    was: was.doc.toJSON() as object,
    is: is.doc.toJSON() as object,
    keys: { was: page.base_keys ?? {}, is: await readKeys(app.db, base.id) },
    /** The changes that are to stay as they are here, by their keys. */
    left: left.map(({ key }) => key),
  };
}

/** The keys of what a page adapts, for one that adapts it. */
const baseKeys = sql<string>`(select coalesce(jsonb_object_agg(part_id, body), '{}') from answer_key
  where page_id = page.from_id)`;

/** Remembers that an adapted original has taken over what it wants up to a version of what it adapts, and of these keys. */
export const settleAdapted = (
  db: Database,
  { thing }: Grant<'manage the page'>,
  { version, keys }: { version: number; keys: Keys },
): Promise<void> =>
  inTransaction(db, async (tx) => {
    await tx
      .updateTable('page')
      .set((eb) => ({
        from_version: eb.fn<number>('least', [
          eb.val(version),
          eb
            .selectFrom('page as base')
            .select('base.version')
            .whereRef('base.id', '=', 'page.from_id'),
        ]),
        base_keys: JSON.stringify(keys),
      }))
      .where('id', '=', thing.id)
      .where('adapted', '=', true)
      .execute();
    await tx.deleteFrom('adapted_left').where('page_id', '=', thing.id).execute();
  });

/** Leaves a change of what a page adapts as it is here: it is not offered any more. */
export async function leaveChange(
  db: Connection,
  { thing }: Grant<'manage the page'>,
  key: string,
): Promise<void> {
  await db
    .insertInto('adapted_left')
    .values({ page_id: thing.id, school_id: thing.school_id, key })
    .onConflict((conflict) => conflict.doNothing())
    .execute();
}

/** Offers all again that was left as it was. */
export const offerAgain = (db: Connection, { thing }: Grant<'manage the page'>): Promise<unknown> =>
  db.deleteFrom('adapted_left').where('page_id', '=', thing.id).execute();

/** Makes an adapted original of an original of the course. @throws Refusal when it is none */
export async function adapt(
  app: Using<'db' | 'memory'>,
  { thing: course }: Grant<'write the course'>,
  page: string,
): Promise<void> {
  const pages = await readListedPages(app.db, { course: course.id });
  const original = pages.find((one) => one.id === page && one.kind === 'original' && !one.adapts);
  if (!original) throw new Refusal(404, 'Only an original of this course can be adapted.');
  await inTransaction(app.db, async (tx) => {
    await copyPages(app.memory, tx, {
      school: course.school_id,
      pages: [page],
      unit: original.unit,
      at: new Date(),
      in: { kind: 'original', course: course.id },
      adapted: true,
    });
    await tx
      .updateTable('page')
      .set({ base_keys: baseKeys })
      .where('from_id', '=', page)
      .where('adapted', '=', true)
      .where('base_keys', 'is', null)
      .execute();
  });
}
