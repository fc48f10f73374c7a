import { z } from 'zod';
import { may } from '../access/table';
import type { App } from '../app';
import { Refusal } from '../page/refusal';
import { copyPages } from './copy-pages';
import { readUnits, type Holder } from './units';
import { inTransaction } from '../db/transaction';

export const Paste = z.object({
  pages: z.array(z.uuid()).min(1).max(500),
  unit: z.uuid().nullable(),
  move: z.boolean(),
});

/**
 * Brings pages that a person may use into a course or a class: as copies, or, from course to course where she keeps both,
 * the pages themselves with their history. In a class, readings go to the shelf and all else to the cupboard.
 * @returns how many came
 * @throws Refusal when a page is not hers to use, or to move
 */
export async function pastePages(
  app: App,
  person: { id: string },
  into: Holder & { school: number },
  wish: z.infer<typeof Paste>,
): Promise<number> {
  const { unit, move } = wish;
  const pages = [...new Set(wish.pages)];
  const units = await readUnits(app.db, into);
  if (unit && !units.some(({ id }) => id === unit))
    throw new Refusal(404, 'This unit is not here any more.');
  const readings: string[] = [];
  for (const id of pages) {
    const found = await app.findPage(person.id, id);
    if (!found || found.thing.kind === 'copy' || !may('use the page', found.relation))
      throw new Refusal(404, 'One of these pages is gone, or it is not yours to use.');
    const movable =
      'course' in into && found.thing.course_id !== null && may('keep the page', found.relation);
    if (move && !movable)
      throw new Refusal(403, `“${found.thing.title}” is not yours to move. It can be copied.`);
    if (found.thing.kind === 'reading') readings.push(id);
  }
  return inTransaction(app.db, async (tx) => {
    const copy = { school: into.school, unit, at: new Date() };
    if ('class' in into) {
      const others = pages.filter((id) => !readings.includes(id));
      const shelf = { kind: 'class page', class: into.class, area: 'shelf' } as const;
      return (
        (await copyPages(app.memory, tx, { ...copy, pages: readings, in: shelf })) +
        (await copyPages(app.memory, tx, {
          ...copy,
          pages: others,
          in: { ...shelf, area: 'cupboard' },
        }))
      );
    }
    if (!move)
      return copyPages(app.memory, tx, {
        ...copy,
        pages,
        in: { kind: 'original', course: into.course },
      });
    const { last } = await tx
      .selectFrom('page')
      .select((page) => page.fn.coalesce(page.fn.max('place'), page.lit(0)).as('last'))
      .where('course_id', '=', into.course)
      .executeTakeFirstOrThrow();
    for (const [index, id] of pages.entries())
      await tx
        .updateTable('page')
        .set({ course_id: into.course, unit_id: unit, place: last + 1 + index })
        .where('id', '=', id)
        .execute();
    return pages.length;
  });
}
