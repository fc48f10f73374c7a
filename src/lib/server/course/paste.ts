import { z } from 'zod';
import type { Grant } from '../access/grant';
import { findCourse } from '../access/relation';
import { may } from '../access/table';
import type { Using } from '../services';
import type { Connection } from '../page/page-store';
import { Refusal } from '../page/refusal';
import { copyPages } from './copy-pages';
import { checkRubrics, putRubrics } from './paste-rubrics';
import { checkUnit, holderOf, type Holding } from './units';
import { inTransaction } from '../db/transaction';

export const Paste = z
  .object({
    pages: z.array(z.uuid()).max(500),
    rubrics: z.array(z.uuid()).max(500).default([]),
    unit: z.uuid().nullable(),
    move: z.boolean(),
  })
  .refine(({ pages, rubrics }) => pages.length + rubrics.length > 0, 'Nothing was chosen.');

/**
 * Brings pages that a person may use into a course or a class, and rubrics into a course: as copies, or, from course to
 * course, the things themselves with their history: that is for whoever owns the course they come from, which lists them.
 * In a class, readings go to the shelf and all else to the cupboard.
 * @returns how many came
 * @throws Refusal when one is not theirs to use, or to move
 */
export async function paste(
  app: Using<'db' | 'findPage' | 'memory'>,
  grant: Holding,
  spec: z.infer<typeof Paste>,
): Promise<number> {
  const { unit, move } = spec;
  const { person, thing } = grant;
  const into = holderOf(grant);
  const pages = [...new Set(spec.pages)];
  await checkUnit(app.db, into, unit);
  const rubrics = [...new Set(spec.rubrics)];
  if (rubrics.length > 0 && 'class' in into)
    throw new Refusal(
      422,
      'A rubric lies in a course. Every class can use it from there: choose it when you hand out.',
    );
  await checkRubrics(app.db, person.id, rubrics, move);
  const readings: string[] = [];
  for (const id of pages) {
    const found = await app.findPage(person.id, id);
    if (!found || found.thing.kind === 'copy' || !may('use the page', found.relation))
      throw new Refusal(404, 'One of these pages is gone, or it is not yours to use.');
    const from = move ? await findCourse(app.db, person.id, found.thing.course_id ?? '') : null;
    const movable = 'course' in into && from !== null && may('share the course', from.relation);
    if (move && !movable)
      throw new Refusal(403, `“${found.thing.title}” is not yours to move. It can be copied.`);
    if (found.thing.kind === 'reading') readings.push(id);
  }
  return inTransaction(app.db, async (tx) => {
    const copy = { school: thing.school_id, unit, at: new Date() };
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
    await putRubrics(tx, rubrics, { course: into.course, unit, person: person.id }, move);
    if (!move) {
      const original = { kind: 'original', course: into.course } as const;
      return rubrics.length + (await copyPages(app.memory, tx, { ...copy, pages, in: original }));
    }
    const { last } = await tx
      .selectFrom('page')
      .select((page) => page.fn.coalesce(page.fn.max('place'), page.lit(0)).as('last'))
      .where('course_id', '=', into.course)
      .executeTakeFirstOrThrow();
    for (const [index, id] of pages.entries())
      await tx
        .updateTable('page')
        .set((eb) => ({
          course_id: into.course,
          unit_id: unit,
          place: last + 1 + index,
          moved_from: eb.ref('course_id'),
        }))
        .where('id', '=', id)
        .execute();
    return pages.length + rubrics.length;
  });
}

/** Pages and rubrics that were moved from a course into others, with where they are now. */
export async function readMovedAway(db: Connection, course: string) {
  const read = (table: 'page' | 'rubric') =>
    db
      .selectFrom(table)
      .innerJoin('course', 'course.id', `${table}.course_id`)
      .select([`${table}.id`, `${table}.title`, 'course.title as to'])
      .where('moved_from', '=', course)
      .whereRef(`${table}.course_id`, '<>', `${table}.moved_from`)
      .orderBy(`${table}.title`)
      .execute();
  return [...(await read('page')), ...(await read('rubric'))];
}

/** Brings a page or rubric back that was moved out of a course: with what was written in it since, in no unit. */
export async function bringBack(
  db: Connection,
  { thing }: Grant<'share the course'>,
  moved: string,
): Promise<void> {
  for (const table of ['page', 'rubric'] as const)
    await db
      .updateTable(table)
      .set({ course_id: thing.id, unit_id: null, moved_from: null })
      .where('id', '=', moved)
      .where('moved_from', '=', thing.id)
      .execute();
}
