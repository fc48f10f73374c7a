import { randomUUID } from 'node:crypto';
import type { Node } from 'prosemirror-model';
import { emptyPage } from '$core/page/schema';
import type { ClassThing } from '../access/relation';
import type { App } from '../app';
import { may } from '../access/table';
import { readUnits } from '../course/units';
import { HeldPage } from '../page/held-page';
import { writeSnapshots } from '../page/write-changes';
import { Refusal } from '../page/refusal';
import { readCopies } from './facts';
import { readOwnCopies } from './own-work';
import { inTransaction } from '../db/transaction';

/**
 * A student's own page in a class, empty or as given, until she puts it away. With an `id` that is there already, nothing
 * is made. @returns its id
 */
export async function beginAs(
  app: App,
  wish: {
    school: number;
    class: string;
    student: string;
    title: string;
    unit: string | null;
    from?: string;
    id?: string;
  },
  page: Node,
): Promise<string> {
  const { id = randomUUID() } = wish;
  const at = new Date();
  await inTransaction(app.db, async (tx) => {
    const { numInsertedOrUpdatedRows: made } = await tx
      .insertInto('page')
      .values({
        ...{ id, school_id: wish.school, kind: 'own page', title: wish.title, made_at: at },
        ...{
          class_id: wish.class,
          student_id: wish.student,
          unit_id: wish.unit,
          from_id: wish.from ?? null,
        },
      })
      .onConflict((conflict) => conflict.column('id').doNothing())
      .executeTakeFirstOrThrow();
    if (!made) return;
    await writeSnapshots(tx, at, [{ id, school: wish.school, held: HeldPage.at(0, page, []) }]);
  });
  return id;
}

/** A new empty page in a student's workbook. */
export const beginOwnPage = (
  app: App,
  wish: { school: number; class: string; student: string; title: string },
): Promise<string> => beginAs(app, { ...wish, unit: null }, emptyPage());

/** A copy of something a student may read, to write on. @throws Refusal when it is nothing to take */
export async function takeReading(app: App, page: string, student: string): Promise<string> {
  const found = await app.findPage(student, page);
  const thing = found?.thing;
  if (!found || !may('take a copy of the page', found.relation) || !thing?.class_id)
    throw new Refusal(404, 'This page cannot be taken into a workbook.');
  const { doc } = await app.pages.open(page);
  const { school_id: school, class_id, title, unit_id: unit } = thing;
  return beginAs(app, { school, class: class_id, student, title, unit, from: page }, doc);
}

/** Puts an own page away, or brings it back. */
export const putOwnPageAway = (app: App, page: string, student: string, away: boolean) =>
  app.db
    .updateTable('page')
    .set({ away_at: away ? new Date() : null })
    .where('id', '=', page)
    .where('kind', '=', 'own page')
    .where('student_id', '=', student)
    .execute();

/** A student's own pages in a class. */
async function readOwnPages(app: App, klass: string, student: string) {
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

/** All copies and own pages of one student in a class, by unit. Of her own copies a student sees what was handed back. */
export async function readWorkbook(
  app: App,
  klass: ClassThing,
  student: { id: string; given: string; family: string },
  viewer: string,
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
  const all =
    viewer === student.id
      ? await readOwnCopies(app.db, student.id)
      : await readCopies(app.db, { student: student.id }, viewer);
  const copies = all.filter((copy) => copy.class === klass.id);
  return {
    klass,
    student: { given: student.given, family: student.family },
    units: await readUnits(app.db, { class: klass.id }),
    pages: await readOwnPages(app, klass.id, student.id),
    copies: copies.map((copy) => ({
      ...copy,
      ...(titles.find(({ id }) => id === copy.id) ?? { title: '', unit: null }),
    })),
    now: Date.now(),
  };
}
