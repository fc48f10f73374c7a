import { shuffle } from 'simple-statistics';
import { z } from 'zod';
import { isWithTeacher, stateOf } from '$core/copy/state';
import { dealReaders, readersFault, type Reading } from '$core/marking/deal-readers';
import type { Grant } from '../access/grant';
import { readStudents } from '../class/board';
import { inTransaction, type Tx } from '../db/transaction';
import { publishToClasses } from '../live/listeners';
import type { Connection } from '../page/page-store';
import { Refusal } from '../page/refusal';
import type { Using } from '../services';
import { readNamesOf } from './classmates';
import { readCopies } from './facts';
import { readRubricOf } from './scorings';

export const DealToClassmates = z.strictObject({
  /** How many copies each scores. */
  each: z.int().min(1).max(20),
  /** Whether they see whose copies they score, and whose scoring they got. */
  named: z.boolean(),
});

/** Who reads whom, to be set as it was. */
export const DealtToClassmates = z.strictObject({
  named: z.boolean(),
  readings: z
    .array(
      z.strictObject({
        page: z.uuid(),
        by: z.uuid(),
        version: z
          .int()
          .min(0)
          .max(2 ** 31 - 1),
      }),
    )
    .max(5000),
});
export type DealtToClassmates = z.infer<typeof DealtToClassmates>;

/** A copy that is dealt to classmates, or could be. */
interface DealtCopy {
  id: string;
  name: string;
  /** Of those that its students read: how many, and how many they scored. */
  reads: number;
  gave: number;
  /** Of those who read it: how many, and how many scored it. */
  readers: number;
  got: number;
}

export interface ClassmatesView {
  named: boolean;
  copies: DealtCopy[];
  /** How many are handed in for each page of the assignment: each of them is a circle. */
  circles: number[];
  /** How many of those are adapted pages. */
  adapted: number;
}

interface Here {
  assignment: string;
  class: string;
}
const hereOf = ({ thing }: Grant<'mark its copies' | 'run the assignment'>): Here => ({
  assignment: thing.id,
  class: thing.class.id,
});

/** The copies that are with the teacher or back, by the page that they stand for. */
async function readCircles(db: Connection, here: Here, person: string) {
  const copies = await readCopies(db, here, person);
  const there = copies.filter(({ facts, delivery, replaced }) => {
    const state = stateOf(facts);
    return delivery !== 'to read' && !replaced && (isWithTeacher(state) || state === 'handed back');
  });
  return [...new Set(there.map((copy) => copy.for))].map((page) =>
    there.filter((copy) => copy.for === page),
  );
}

const readReadings = (db: Connection, here: Here) =>
  db
    .selectFrom('reading')
    .innerJoin('page', 'page.id', 'reading.page_id')
    .select(['page.id as page', 'reading.by_page_id as by', 'reading.version'])
    .where('page.assignment_id', '=', here.assignment)
    .where('page.class_id', '=', here.class)
    .execute();

const readNamed = async (db: Connection, here: Here): Promise<boolean> =>
  (
    await db
      .selectFrom('assignment_class')
      .select('classmates_named')
      .where('assignment_id', '=', here.assignment)
      .where('class_id', '=', here.class)
      .executeTakeFirstOrThrow()
  ).classmates_named;

/** Who scores whose copies, and how far they are. @throws Refusal without a rubric */
export async function viewClassmates(
  app: Using<'db'>,
  grant: Grant<'mark its copies'>,
): Promise<ClassmatesView> {
  const { db } = app;
  const here = hereOf(grant);
  if (!(await readRubricOf(db, here.assignment)))
    throw new Refusal(409, 'This assignment is not scored by a rubric.');
  const [circles, readings, named, students] = await Promise.all([
    readCircles(db, here, grant.person.id),
    readReadings(db, here),
    readNamed(db, here),
    readStudents(db, here.class),
  ]);
  const scored = await readScored(db, here);
  const adapted = await db
    .selectFrom('page')
    .select('id')
    .where('assignment_id', '=', here.assignment)
    .where('class_id', '=', here.class)
    .whereRef('source_id', '<>', 'for_id')
    .execute();
  const there = circles.flat();
  const pages = [...new Set(readings.flatMap(({ page, by }) => [page, by]))];
  const names = await readNamesOf(db, pages);
  const isScored = ({ page, by }: Reading) => scored.has(`${page} ${by}`);
  const place = new Map(students.map(({ id }, index) => [id, index]));
  const first = new Map(there.map(({ id, members }) => [id, place.get(members[0] ?? '') ?? 0]));
  return {
    named,
    circles: circles.map(({ length }) => length),
    adapted: adapted.filter(({ id }) => first.has(id)).length,
    copies: pages
      .map((id) => {
        const reads = readings.filter(({ by }) => by === id);
        const readers = readings.filter(({ page }) => page === id);
        return {
          id,
          name: names.get(id) ?? '',
          reads: reads.length,
          gave: reads.filter(isScored).length,
          readers: readers.length,
          got: readers.filter(isScored).length,
        };
      })
      .sort((a, b) => (first.get(a.id) ?? Infinity) - (first.get(b.id) ?? Infinity)),
  };
}

/** Which readings were given: "page by". */
async function readScored(db: Connection, here: Here): Promise<ReadonlySet<string>> {
  const rows = await db
    .selectFrom('student_scoring')
    .innerJoin('page', 'page.id', 'student_scoring.page_id')
    .select(['page.id as page', 'by_page_id as by'])
    .distinct()
    .where('by_page_id', 'is not', null)
    .where('page.assignment_id', '=', here.assignment)
    .where('page.class_id', '=', here.class)
    .execute();
  return new Set(rows.map(({ page, by }) => `${page} ${by}`));
}

/**
 * Deals the copies of an assignment in a class that are handed in to classmates, who score them as they stand now.
 * @returns how they were dealt before
 */
export const dealToClassmates = (
  app: Using<'db' | 'news'>,
  grant: Grant<'run the assignment'>,
  { each, named }: z.infer<typeof DealToClassmates>,
): Promise<DealtToClassmates> =>
  setReadings(app, grant, async (tx) => {
    if (!(await readRubricOf(tx, grant.thing.id)))
      throw new Refusal(409, 'This assignment is not scored by a rubric.');
    const circles = await readCircles(tx, hereOf(grant), grant.person.id);
    const sizes = circles.map(({ length }) => length);
    const fault = readersFault(Math.max(0, ...sizes), each);
    if (fault) throw new Refusal(422, fault);
    const readings = circles.flatMap((copies) => {
      if (copies.length <= each) return [];
      const versions = new Map(copies.map(({ id, version }) => [id, version]));
      // In no order that anybody could guess.
      const ids = shuffle(copies.map(({ id }) => id));
      return dealReaders(ids, each).map((one) => ({
        ...one,
        version: versions.get(one.page) ?? 0,
      }));
    });
    return { named, readings };
  });

/** Sets who reads whom, such as it was before: nobody anybody, at first. */
export const dealToClassmatesAsBefore = (
  app: Using<'db' | 'news'>,
  grant: Grant<'run the assignment'>,
  before: DealtToClassmates,
): Promise<DealtToClassmates> =>
  setReadings(app, grant, async (tx) => {
    const pages = new Set(before.readings.flatMap(({ page, by }) => [page, by]));
    const known = new Map(
      (await readCopies(tx, hereOf(grant), grant.person.id)).map((copy) => [copy.id, copy]),
    );
    if ([...pages].some((id) => !known.has(id)))
      throw new Refusal(422, 'One of these copies is not there any more. Deal them anew.');
    const isOff = before.readings.some(
      ({ page, by, version }) => page === by || version > (known.get(page)?.version ?? 0),
    );
    if (isOff) throw new Refusal(422, 'Copies cannot be dealt like this.');
    return before;
  });

async function setReadings(
  app: Using<'db' | 'news'>,
  grant: Grant<'run the assignment'>,
  deal: (tx: Tx) => Promise<DealtToClassmates>,
): Promise<DealtToClassmates> {
  const here = hereOf(grant);
  const { school_id } = grant.thing;
  const before = await inTransaction(app.db, async (tx) => {
    // One deals at a time.
    await tx
      .selectFrom('assignment_class')
      .select('class_id')
      .where('assignment_id', '=', here.assignment)
      .where('class_id', '=', here.class)
      .forUpdate()
      .execute();
    const had = { named: await readNamed(tx, here), readings: await readReadings(tx, here) };
    const { named, readings } = await deal(tx);
    const pages = [...new Set(had.readings.map(({ page }) => page))];
    if (pages.length > 0) await tx.deleteFrom('reading').where('page_id', 'in', pages).execute();
    const rows = readings.map(({ page, by, version }) => ({
      page_id: page,
      by_page_id: by,
      school_id,
      version,
    }));
    if (rows.length > 0)
      await tx
        .insertInto('reading')
        .values(rows)
        .onConflict((there) => there.doNothing())
        .execute();
    await tx
      .updateTable('assignment_class')
      .set({ classmates_named: named })
      .where('assignment_id', '=', here.assignment)
      .where('class_id', '=', here.class)
      .execute();
    return had;
  });
  publishToClasses(app, [here.class]);
  return before;
}
