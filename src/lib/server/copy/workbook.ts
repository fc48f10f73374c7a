import { factsFor } from '$core/copy/state';
import type { Grant } from '../access/grant';
import type { ClassThing } from '../access/relation';
import type { Using } from '../services';
import { readStudents } from '../class/board';
import { readUnits } from '../course/units';
import { Refusal } from '../page/refusal';
import type { CopyRow } from '$core/copy/copy-row';
import { readCopies } from './facts';
import { readOwnCopies } from './own-work';
import { readStory } from './story';

/** A student's own workbook. Of their copies they see what was handed back. */
export const viewOwnWorkbook = async (
  app: Using<'db'>,
  { thing, person }: Grant<'see own workbook'>,
) => {
  const view = await readWorkbook(app, thing, person, await readOwnCopies(app.db, person.id));
  // What students took from a unit that is in the cupboard now is theirs, and stands in no unit.
  const inSight = view.units.filter(({ stored }) => !stored || thing.archived);
  const isInSight = (unit: string | null) => inSight.some(({ id }) => id === unit);
  return {
    ...view,
    units: inSight,
    pages: view.pages.map((page) => ({ ...page, unit: isInSight(page.unit) ? page.unit : null })),
  };
};

/** A student's workbook, as the staff see it. @throws Refusal when they are not in the class */
export async function viewWorkbook(
  app: Using<'db'>,
  { thing, person }: Grant<'see the class'>,
  id: string | undefined,
) {
  const student = (await readStudents(app.db, thing.id)).find((one) => one.id === id);
  if (!student) throw new Refusal(404, 'This student is not in the class.');
  const copies = await readCopies(app.db, { student: student.id }, person.id);
  const theirs = copies.map((copy) => ({ ...copy, facts: factsFor(copy, student.id) }));
  const view = await readWorkbook(app, thing, student, theirs);
  const pages = [...view.copies, ...view.pages].map((page) => page.id);
  return { ...view, story: await readStory(app.db, thing, student.id, pages, view.now) };
}

/** A student's own pages in a class. */
async function readOwnPages(app: Using<'db'>, klass: string, student: string) {
  const rows = await app.db
    .selectFrom('page')
    .select(['id', 'title', 'unit_id as unit', 'words', 'written_at', 'made_at', 'away_at'])
    .where('class_id', '=', klass)
    .where('student_id', '=', student)
    .where('kind', '=', 'own page')
    .orderBy('made_at')
    .execute();
  return rows.map(({ written_at, made_at, away_at, ...page }) => ({
    ...page,
    changed: (written_at ?? made_at).getTime(),
    away: away_at !== null,
  }));
}

/** All copies and own pages of one student in a class, by unit. */
async function readWorkbook(
  app: Using<'db'>,
  klass: ClassThing,
  student: { id: string; given: string; family: string },
  all: readonly CopyRow[],
) {
  const titles = await app.db
    .selectFrom('page')
    .innerJoin('assignment_class', (join) =>
      join
        .onRef('assignment_class.assignment_id', '=', 'page.assignment_id')
        .onRef('assignment_class.class_id', '=', 'page.class_id'),
    )
    .select(['page.id', 'page.title', 'assignment_class.unit_id as unit'])
    .where('page.class_id', '=', klass.id)
    .where('page.kind', '=', 'copy')
    .execute();
  const copies = all.filter((copy) => copy.class === klass.id);
  return {
    klass,
    student: { id: student.id, given: student.given, family: student.family },
    units: await readUnits(app.db, { class: klass.id }),
    pages: await readOwnPages(app, klass.id, student.id),
    copies: copies.map((copy) => ({
      ...copy,
      ...(titles.find(({ id }) => id === copy.id) ?? { title: '', unit: null }),
    })),
    now: Date.now(),
  };
}
