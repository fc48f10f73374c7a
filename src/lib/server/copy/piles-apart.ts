import type { Grant } from '../access/grant';
import { publishToClasses } from '../live/listeners';
import type { Connection } from '../page/page-store';
import { Refusal } from '../page/refusal';
import type { Using } from '../services';

/** Whose answers to a part were taken out of their piles. */
export async function readApart(
  db: Connection,
  part: string,
  copies: readonly string[],
): Promise<Set<string>> {
  if (copies.length === 0) return new Set();
  const rows = await db
    .selectFrom('answer_apart')
    .select('page_id')
    .where('part_id', '=', part)
    .where('page_id', 'in', [...copies])
    .execute();
  return new Set(rows.map(({ page_id }) => page_id));
}

/** Takes a copy's answer out of its pile, or puts it back. @throws Refusal when it is none of these copies */
export async function setApart(
  app: Using<'db' | 'news'>,
  { thing }: Grant<'mark its copies'>,
  { copy, part, apart }: { copy: string; part: string; apart: boolean },
): Promise<void> {
  const page = await app.db
    .selectFrom('page')
    .select(['id', 'school_id', 'class_id'])
    .where('id', '=', copy)
    .where('kind', '=', 'copy')
    .where('assignment_id', '=', thing.id)
    .where('class_id', '=', thing.class.id)
    .executeTakeFirst();
  if (!page?.class_id) throw new Refusal(404, 'There is no such copy in this class.');
  if (apart)
    await app.db
      .insertInto('answer_apart')
      .values({ page_id: copy, part_id: part, school_id: page.school_id })
      .onConflict((conflict) => conflict.doNothing())
      .execute();
  else
    await app.db
      .deleteFrom('answer_apart')
      .where('page_id', '=', copy)
      .where('part_id', '=', part)
      .execute();
  publishToClasses(app, [page.class_id]);
}
