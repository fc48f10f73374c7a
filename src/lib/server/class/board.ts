import { HandOutSpec, isMeant, type Delivery } from '$core/handout/spec';
import type { TermView } from '$core/calendar/term';
import { Brought } from '$core/archive/record';
import {
  dueThen,
  hasCome,
  isEnrolled,
  isHandedOut,
  meantUntil,
  namedThen,
  type Moment,
} from '../db/as-of';
import type { Database } from '../db/connect';
import type { CopyRow } from '$core/copy/copy-row';
import { readCopies } from '../copy/facts';
import { readUnits } from '../course/units';
import type { ClassThing } from '../access/relation';

export interface BoardStudent {
  id: string;
  /** "Abernathy, Isla" */
  name: string;
  given: string;
  family: string;
}

/** A column of the board: a page of an assignment, of which it may have several. */
interface BoardAssignment {
  id: string;
  /** The original its copies stand for. */
  for: string;
  title: string;
  delivery: Delivery;
  /** Students of the class who are not meant to get it. */
  leftOut: string[];
  /** The page's own title, where the assignment has several. */
  page: string | null;
  unit: string | null;
  /** Epoch milliseconds. */
  due: number | null;
  handedOut: number;
  points: string | null;
}

export interface Board {
  students: BoardStudent[];
  units: { id: string; title: string }[];
  assignments: BoardAssignment[];
  copies: CopyRow[];
  /** What students had before they were given something else, where it came back with points. */
  replaced: CopyRow[];
}

/** The students in a class, by family name. @param at those who were then */
export async function readStudents(
  db: Database,
  klass: string,
  at: Moment = null,
): Promise<BoardStudent[]> {
  const rows = await db
    .selectFrom('enrolment')
    .innerJoin('person', 'person.id', 'enrolment.person_id')
    .select(['person.id', 'person.given', 'person.family'])
    .where('enrolment.class_id', '=', klass)
    .where(isEnrolled('enrolment', at))
    .orderBy('person.family')
    .orderBy('person.given')
    .execute();
  return rows.map((row) => ({ ...row, name: `${row.family}, ${row.given}` }));
}

export async function readTerm(db: Database, klass: ClassThing): Promise<TermView> {
  // One that was opened from an archive has the calendar of the school that it comes from.
  const { brought } = await db
    .selectFrom('class')
    .select('brought')
    .where('id', '=', klass.id)
    .executeTakeFirstOrThrow();
  if (brought) {
    const { term, holidays } = Brought.parse(brought).calendar;
    return { ...term, holidays };
  }
  const term = await db
    .selectFrom('term')
    .select(['name', 'starts', 'ends'])
    .where('id', '=', klass.term_id)
    .executeTakeFirstOrThrow();
  const holidays = await db
    .selectFrom('holiday')
    .select(['name', 'starts', 'ends'])
    .where('school_id', '=', klass.school_id)
    .where('ends', '>=', term.starts)
    .where('starts', '<=', term.ends)
    .orderBy('starts')
    .execute();
  return { ...term, holidays };
}

/** The students × assignments table of a class, as one of its staff sees it. @param at as it stood then */
export async function readBoard(
  db: Database,
  klass: string,
  viewer: string,
  at: Moment = null,
): Promise<Board> {
  const assignments = await db
    .selectFrom('assignment_class')
    .innerJoin('assignment', 'assignment.id', 'assignment_class.assignment_id')
    .innerJoin('assignment_original', 'assignment_original.assignment_id', 'assignment.id')
    .innerJoin('page', 'page.id', 'assignment_original.page_id')
    .leftJoin('unit', 'unit.id', 'assignment_class.unit_id')
    .select([
      'assignment.id',
      'assignment.title',
      'assignment.points',
      'assignment.spec',
      'assignment_original.delivery',
      'assignment_original.page_id as for',
      'page.title as page',
      'assignment_class.unit_id as unit',
      dueThen('assignment_class', at).as('due_at'),
      meantUntil('assignment.id', at).$castTo<{ spec: unknown } | null>().as('meant'),
      'handed_out_at',
    ])
    .where('assignment_class.class_id', '=', klass)
    .where(isHandedOut('assignment_class', at))
    .where(hasCome('assignment_class.handed_out_at', at))
    .where('assignment_original.instead_of', 'is', null)
    .orderBy('unit.place')
    .orderBy('handed_out_at')
    .orderBy('page.title')
    .execute();
  const students = await readStudents(db, klass, at);
  const copies = await readCopies(db, { class: klass, replacedToo: true }, viewer, at);
  const leftOut = (spec: unknown) => {
    const meant = spec ? isMeant(HandOutSpec.parse(spec)) : () => true;
    return students.filter(({ id }) => !meant(id)).map(({ id }) => id);
  };
  return {
    students,
    units: await readUnits(db, { class: klass }),
    assignments: assignments.map(({ due_at, handed_out_at, spec: newest, meant, ...row }) => {
      const spec = meant?.spec ?? newest;
      return {
        ...namedThen(row, meant),
        leftOut: leftOut(spec),
        page: assignments.filter(({ id }) => id === row.id).length > 1 ? row.page : null,
        due: due_at?.getTime() ?? null,
        handedOut: handed_out_at.getTime(),
      };
    }),
    copies: copies.filter(({ replaced }) => !replaced),
    replaced: copies.filter(({ replaced, pointsBack }) => replaced && pointsBack !== null),
  };
}
