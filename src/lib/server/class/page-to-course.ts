import type { Grant } from '../access/grant';
import { findCourse } from '../access/relation';
import { may } from '../access/table';
import { copyPages } from '../course/copy-pages';
import { readUnitsOfCourse } from '../course/units';
import { inTransaction } from '../db/transaction';
import { Refusal } from '../page/refusal';
import type { Using } from '../services';

/**
 * Copies a page of a class into its course, so that it is there for the next classes: as a reading what lies on the shelf,
 * as an original all else; without what students wrote in it; in the unit that its own came from.
 * @returns the titles of the page and of the course
 * @throws Refusal when the page is gone, or the course is not this person's to write
 */
export async function copyToCourse(
  app: Using<'db' | 'memory'>,
  { thing: klass, person }: Grant<'manage the class'>,
  page: string,
): Promise<{ title: string; course: string }> {
  const course = await findCourse(app.db, person.id, klass.course_id);
  if (!course || !may('write the course', course.relation))
    throw new Refusal(403, 'The course of this class is not yours to write in.');
  const found = await app.db
    .selectFrom('page')
    .select(['title', 'area', 'unit_id'])
    .where('id', '=', page)
    .where('class_id', '=', klass.id)
    .where('kind', '=', 'class page')
    .where('away_at', 'is', null)
    .executeTakeFirst();
  if (!found) throw new Refusal(404, 'This page is not in the class any more.');
  const units = await readUnitsOfCourse(app.db, { class: klass.id });
  const from = units.find(({ id }) => id === found.unit_id)?.from ?? null;
  const unit = await app.db
    .selectFrom('unit')
    .select('id')
    .where('id', '=', from)
    .where('course_id', '=', klass.course_id)
    .where('away_at', 'is', null)
    .executeTakeFirst();
  await inTransaction(app.db, (tx) =>
    copyPages(app.memory, tx, {
      school: klass.school_id,
      pages: [page],
      unit: unit?.id ?? null,
      at: new Date(),
      in: { kind: found.area === 'shelf' ? 'reading' : 'original', course: klass.course_id },
    }),
  );
  return { title: found.title, course: course.thing.title };
}
