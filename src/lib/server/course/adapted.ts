import type { Grant } from '../access/grant';
import type { Using } from '../services';
import { inTransaction } from '../db/transaction';
import { Refusal } from '../page/refusal';
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
  return {
    id: base.id,
    title: base.title,
    version: is.version,
    since: page.from_version,
    was: was.doc.toJSON() as object,
    is: is.doc.toJSON() as object,
  };
}

/** Remembers that an adapted original has taken over what it wants up to a version of what it adapts. */
export const settleAdapted = (
  db: Connection,
  { thing }: Grant<'manage the page'>,
  version: number,
) =>
  db
    .updateTable('page')
    .set((eb) => ({
      from_version: eb.fn<number>('least', [
        eb.val(version),
        eb
          .selectFrom('page as base')
          .select('base.version')
          .whereRef('base.id', '=', 'page.from_id'),
      ]),
    }))
    .where('id', '=', thing.id)
    .where('adapted', '=', true)
    .execute();

/** Makes an adapted original of an original of the course. @throws Refusal when it is none */
export async function adapt(
  app: Using<'db' | 'memory'>,
  { thing: course }: Grant<'write the course'>,
  page: string,
): Promise<void> {
  const pages = await readListedPages(app.db, { course: course.id });
  const original = pages.find((one) => one.id === page && one.kind === 'original' && !one.adapts);
  if (!original) throw new Refusal(404, 'Only an original of this course can be adapted.');
  await inTransaction(app.db, (tx) =>
    copyPages(app.memory, tx, {
      school: course.school_id,
      pages: [page],
      unit: original.unit,
      at: new Date(),
      in: { kind: 'original', course: course.id },
      adapted: true,
    }),
  );
}
