import { sql } from 'kysely';
import { pagesOf } from './holders';
import { CLASS_STATE, OPEN_CLASS } from '../access/class-state';
import type { Grant } from '../access/grant';
import type { Using } from '../services';
import type { Database } from '../db/connect';
import type { Connection } from '../page/page-store';
import { asStudentSees, type CopyRow } from '$core/copy/copy-row';
import type { ClassmatesFeedback } from '$core/marking/student-scoring';
import { readBackFromClassmates } from './classmates';
import { readCopies, readCopy } from './facts';
import type { LastTime } from '$core/marking/before-and-now';
import { readLastTime } from './last-time';
import { readFeedback, type GivenScoring } from './scorings';

/** Everything a student was handed out in the classes that are open to them, soonest due first. */
export async function readOwnWork(app: Using<'db'>, student: string) {
  const assignments = await app.db
    .selectFrom('page')
    .innerJoin('class', 'class.id', 'page.class_id')
    .innerJoin('course', 'course.id', 'class.course_id')
    .innerJoin('assignment', 'assignment.id', 'page.assignment_id')
    .select([
      'page.id',
      'page.title',
      'assignment.points',
      'assignment.form',
      'assignment.late',
      'class.name as class',
      'course.title as course',
    ])
    .where('page.id', '=', sql<string>`any(${pagesOf(student)})`)
    .where(OPEN_CLASS)
    .execute();
  const about = new Map(assignments.map((row) => [row.id, row]));
  const copies = await readOwnCopies(app.db, student);
  const own = copies.flatMap((copy) => {
    const known = about.get(copy.id);
    return known ? [{ ...known, ...copy, class: known.class, most: known.points }] : [];
  });
  return own.sort((a, b) => (a.facts.due ?? Infinity) - (b.facts.due ?? Infinity));
}

/** The others who share a page, by name. */
export async function readOtherHolders(
  db: Database,
  page: string,
  person: string,
): Promise<string[]> {
  const rows = await db
    .selectFrom('page_member')
    .innerJoin('person', 'person.id', 'page_member.person_id')
    .select(['given', 'family'])
    .where('page_id', '=', page)
    .where('person_id', '<>', person)
    .orderBy('family')
    .execute();
  return rows.map(({ given, family }) => `${given} ${family}`);
}

/** The classes that are open to a student. */
export const readOpenClasses = (db: Database, student: string) =>
  db
    .selectFrom('enrolment')
    .innerJoin('class', 'class.id', 'enrolment.class_id')
    .innerJoin('course', 'course.id', 'class.course_id')
    .select(['class.id', 'class.name', 'course.title'])
    .where('enrolment.person_id', '=', student)
    .where('left_at', 'is', null)
    .where(OPEN_CLASS)
    .orderBy('class.name')
    .execute();

/** The archived classes of which a student still reads their own work, and until when: "2027-01-31". */
export const readClassesToRead = (db: Database, student: string) =>
  db
    .selectFrom('enrolment')
    .innerJoin('class', 'class.id', 'enrolment.class_id')
    .innerJoin('course', 'course.id', 'class.course_id')
    .select(['class.id', 'class.name', 'course.title', 'class.read_until as until'])
    .where('enrolment.person_id', '=', student)
    .where('left_at', 'is', null)
    .where(CLASS_STATE, '=', 'to read')
    .orderBy('class.name')
    .execute();

/** A student's copies in the classes they are in now, as they may see them. */
export const readOwnCopies = async (db: Connection, student: string): Promise<CopyRow[]> =>
  (await readCopies(db, { seenBy: student }, student)).map((copy) => asStudentSees(copy, student));

/** What a student's own copy came back with last, and what they compare it with. */
export interface OwnFeedback {
  given: GivenScoring | null;
  lastTime: LastTime | null;
  /** What classmates gave it. */
  classmates: readonly ClassmatesFeedback[];
}
export async function readOwnFeedback(
  db: Connection,
  { thing, person }: Grant<'see own copy'>,
): Promise<OwnFeedback> {
  const [given, lastTime, classmates] = await Promise.all([
    readFeedback(db, thing.id),
    readLastTime(db, { page: thing.id, student: person.id }),
    readBackFromClassmates(db, thing.id),
  ]);
  return { given, lastTime, classmates };
}

/** What a student has now instead of a page that was theirs, for the same original of its assignment; null for nothing. */
export async function readInstead(
  app: Using<'db'>,
  { person }: Grant<'see own work'>,
  page: string,
): Promise<string | null> {
  const row = await app.db
    .selectFrom('page')
    .innerJoin('page as was', (join) =>
      join
        .onRef('was.assignment_id', '=', 'page.assignment_id')
        .onRef('was.for_id', '=', 'page.for_id')
        .onRef('was.class_id', '=', 'page.class_id'),
    )
    .innerJoin('class', 'class.id', 'page.class_id')
    .select('page.id')
    .where('was.id', '=', page)
    .where('page.id', '<>', page)
    .where('page.id', '=', sql<string>`any(${pagesOf(person.id)})`)
    .where('page.away_at', 'is', null)
    .where('page.replaced_at', 'is', null)
    .where(OPEN_CLASS)
    .executeTakeFirst();
  return row?.id ?? null;
}

/** How a student's own copy stands, for them. */
export const readOwnStanding = async (
  db: Connection,
  { thing, person }: Grant<'do own work'>,
): Promise<CopyRow> => asStudentSees(await readCopy(db, thing.id, person.id), person.id);
