import { sql } from 'kysely';
import { TO_CLASSMATES } from '$core/copy/folio';
import type { Database } from '../db/connect';
import { isDealtTo } from '../copy/holders';
import { CLASS_STATE, inCupboard, isArchived, type ClassState } from './class-state';
import { together } from '../db/together';
import type { CourseRight, PageRow } from '../db/schema';
import type { Relation } from './table';

export interface ClassThing {
  id: string;
  name: string;
  title: string;
  course_id: string;
  term_id: string;
  school_id: number;
  time_zone: string;
  /** Nothing in it changes any more. */
  archived: boolean;
}

/** An id that is not a UUID names nothing; it is not an error of the database. */
const isId = (text: string) => /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i.test(text);

export async function findClass(db: Database, person: string, id: string) {
  if (!isId(id)) return null;
  const row = await db
    .selectFrom('class')
    .innerJoin('course', 'course.id', 'class.course_id')
    .innerJoin('school', 'school.id', 'class.school_id')
    .select([
      'class.id',
      'class.name',
      'course.title',
      'class.course_id',
      'class.term_id',
      'class.school_id',
      'school.time_zone',
    ])
    .select(CLASS_STATE.as('state'))
    .select((eb) => [
      eb
        .selectFrom('class_staff')
        .select('class_staff.kind')
        .whereRef('class_staff.class_id', '=', 'class.id')
        .where('person_id', '=', person)
        .as('staff'),
      eb
        .selectFrom('enrolment')
        .select('joined_at')
        .whereRef('enrolment.class_id', '=', 'class.id')
        .where('person_id', '=', person)
        .where('left_at', 'is', null)
        .as('joined'),
    ])
    .where('class.id', '=', id)
    .executeTakeFirst();
  if (!row) return null;
  const { staff, joined, state, ...thing } = row;
  const relation = staff ? relationOfStaff(staff, state) : relationOfStudent(joined, state);
  return { relation, thing: { ...thing, archived: isArchived(state) } satisfies ClassThing };
}

const relationOfStaff = (staff: NonNullable<Staff>, state: ClassState): Relation =>
  isArchived(state) ? `past ${staff}` : staff;

function relationOfStudent(joined: Date | null, state: ClassState): Relation {
  if (!joined) return 'nobody';
  return state === 'open' ? 'student' : state === 'to read' ? 'past student' : 'nobody';
}

export interface AssignmentThing {
  id: string;
  title: string;
  school_id: number;
  /** The class it is seen in. */
  class: ClassThing;
  /** All classes it was handed out in, withdrawn or not. */
  classes: readonly string[];
}

const LEADING = ['lead', 'co-teacher'] as const;

/**
 * Finds what an assignment, seen in one of its classes, is to a person.
 * @param inAll what they are to the least of its classes, rather than to this one
 */
export async function findAssignment(
  db: Database,
  person: string,
  at: { assignment: string; class: string },
  inAll: boolean,
): Promise<{ relation: Relation; thing: AssignmentThing } | null> {
  const here = isId(at.assignment) ? await findClass(db, person, at.class) : null;
  if (!here) return null;
  const rows = await db
    .selectFrom('assignment_class')
    .innerJoin('assignment', 'assignment.id', 'assignment_class.assignment_id')
    .innerJoin('class', 'class.id', 'assignment_class.class_id')
    .leftJoin('class_staff', (join) =>
      join
        .onRef('class_staff.class_id', '=', 'assignment_class.class_id')
        .on('class_staff.person_id', '=', person),
    )
    .select([
      'assignment.title',
      'assignment_class.class_id',
      'class_staff.kind',
      'class.archived_at',
    ])
    .where('assignment_class.assignment_id', '=', at.assignment)
    .execute();
  const [first] = rows;
  if (!first || !rows.some(({ class_id }) => class_id === here.thing.id)) return null;
  const relation = inAll ? leastOf(here.relation, rows) : here.relation;
  const { school_id } = here.thing;
  const classes = rows.map(({ class_id }) => class_id);
  return {
    relation,
    thing: { id: at.assignment, title: first.title, school_id, class: here.thing, classes },
  };
}

/** What somebody is to all classes of an assignment, who is `here` to one of them. */
function leastOf(
  here: Relation,
  classes: readonly { kind: Staff; archived_at: Date | null }[],
): Relation {
  // What concerns all of its classes would change an archived one, too.
  if (here !== 'nobody' && classes.some(({ archived_at }) => archived_at !== null))
    return 'past marker';
  const elsewhere = classes.find(({ kind }) => !LEADING.some((leading) => leading === kind));
  return elsewhere ? (elsewhere.kind ?? weaker(here)) : here;
}

/** Who leads this class and has no part in another of the assignment's sees it, and does not change it. */
const weaker = (here: Relation): Relation =>
  LEADING.some((leading) => leading === here) ? 'marker' : here;

export interface CourseThing {
  id: string;
  title: string;
  school_id: number;
}

const COURSE_RELATIONS = { own: 'course owner', write: 'keeper', use: 'user' } as const;

export async function findCourse(db: Database, person: string, id: string) {
  if (!isId(id)) return null;
  const row = await db
    .selectFrom('course')
    .leftJoin('course_staff', (join) =>
      join.onRef('course_staff.course_id', '=', 'course.id').on('person_id', '=', person),
    )
    .select(['course.id', 'course.title', 'course.school_id', 'course_staff.may'])
    .where('course.id', '=', id)
    .executeTakeFirst();
  if (!row) return null;
  const { may, ...thing } = row;
  const relation: Relation = may ? COURSE_RELATIONS[may] : 'nobody';
  return { relation, thing: thing satisfies CourseThing };
}

export type PageThing = PageRow;

export interface FoundPage {
  relation: Relation;
  thing: PageThing;
}

type Staff = 'lead' | 'co-teacher' | 'marker' | null;

/** What a student has to do with a page of a class that they see, and from which it was not withdrawn. */
interface Part {
  /** Whether the page is theirs alone. */
  own: boolean;
  /** Whether they are one of those who share it. */
  shares: boolean;
  /** Whether it was dealt to them, to score it. */
  scores: boolean;
  /** Whether they are in the class now. */
  here: boolean;
  /** Whether it lies in a unit that is in the cupboard. */
  isHidden: boolean;
  /** How its class stands; null for a page of a course. */
  state: ClassState | null;
}

/** A copy is its students' to write in, while they are in the class, until they were given something else. */
function relationToCopy(thing: PageThing, staff: Staff, part: Part): Relation {
  const { own, shares, scores, here, state } = part;
  if (staff) return relationOfStaff(staff, state ?? 'closed');
  if (thing.away_at !== null) return 'nobody';
  if (!own && !(shares && here)) return scores && here && state === 'open' ? 'scorer' : 'nobody';
  if (isArchived(state)) return 'past student';
  // Who left keeps reading what is theirs alone.
  return !here || thing.replaced_at !== null || thing.delivery === 'to read' ? 'reader' : 'owner';
}

/** A page of a student's own: they alone write it and put it away; the staff look, and classmates where it is shown to them. */
function relationToOwnPage({ away_at, folio }: PageThing, staff: Staff, part: Part): Relation {
  const { own, here, state } = part;
  if (isArchived(state)) return staff ? `past ${staff}` : own ? 'past student' : 'nobody';
  if (staff) return 'overseer';
  const isShown = folio !== null && TO_CLASSMATES.includes(folio) && away_at === null;
  if (!own) return here && isShown && state === 'open' ? 'classmate' : 'nobody';
  return here && away_at === null ? 'writer' : 'reader';
}

/** Students read the shelf and the welcome page, and write on the worktable; the cupboard is the staff's. */
function relationToClassPage(
  { area, away_at }: PageThing,
  staff: Staff,
  { here, state, isHidden }: Part,
): Relation {
  if (staff) return staff === 'marker' || isArchived(state) ? 'user' : 'keeper';
  if (!here || state !== 'open' || isHidden || away_at !== null || area === 'cupboard')
    return 'nobody';
  return area === 'worktable' ? 'co-writer' : 'reader';
}

function relationTo(
  thing: PageThing,
  staff: Staff,
  right: CourseRight | null,
  part: Part,
): Relation {
  if (thing.kind === 'class page') return relationToClassPage(thing, staff, part);
  if (thing.kind === 'own page') return relationToOwnPage(thing, staff, part);
  if (thing.kind === 'copy') return relationToCopy(thing, staff, part);
  return right === null ? 'nobody' : right === 'use' ? 'user' : 'keeper';
}

/** Finds what a page is to a person; null when there is no such page. */
export type PageReader = ReturnType<typeof pageReader>;

export function pageReader(db: Database) {
  const read = together(async (asked: readonly { person: string; id: string }[]) => {
    const ids = asked.map(({ id }) => id);
    const people = asked.map(({ person }) => person);
    const rows = await db
      .selectFrom(
        sql<{ id: string; person: string; n: number }>`
          unnest(${ids}::uuid[], ${people}::uuid[]) with ordinality`.as<'asked'>(
          sql`asked(id, person, n)`,
        ),
      )
      .innerJoin('page', 'page.id', 'asked.id')
      .selectAll('page')
      .select((eb) => [
        sql<number>`asked.n::int`.as('n'),
        'asked.person',
        eb
          .selectFrom('class_staff')
          .select('class_staff.kind')
          .whereRef('class_staff.class_id', '=', 'page.class_id')
          .whereRef('class_staff.person_id', '=', 'asked.person')
          .as('staff'),
        eb
          .selectFrom('course_staff')
          .select('course_staff.may')
          .whereRef('course_staff.course_id', '=', 'page.course_id')
          .whereRef('course_staff.person_id', '=', 'asked.person')
          .as('course_right'),
        eb
          .selectFrom('enrolment')
          .select('joined_at')
          .whereRef('enrolment.class_id', '=', 'page.class_id')
          .whereRef('enrolment.person_id', '=', 'asked.person')
          .where('left_at', 'is', null)
          .as('joined'),
        // Of copies: whether the person is one of those who share it, and whether it was withdrawn from the class.
        eb
          .selectFrom('page_member')
          .select('person_id')
          .whereRef('page_member.page_id', '=', 'page.id')
          .whereRef('page_member.person_id', '=', 'asked.person')
          .as('member'),
        isDealtTo(sql.ref('asked.person')).as('scorer'),
        eb
          .selectFrom('assignment_class')
          .select('withdrawn_at')
          .whereRef('assignment_class.assignment_id', '=', 'page.assignment_id')
          .whereRef('assignment_class.class_id', '=', 'page.class_id')
          .as('withdrawn'),
        eb
          .selectFrom('class')
          .select(CLASS_STATE.as('state'))
          .whereRef('class.id', '=', 'page.class_id')
          .as('state'),
        eb
          .selectFrom('assignment_class as handed')
          .select(inCupboard('handed.unit_id').as('stored'))
          .whereRef('handed.assignment_id', '=', 'page.assignment_id')
          .whereRef('handed.class_id', '=', 'page.class_id')
          .as('handed_stored'),
        inCupboard('page.unit_id').as('page_stored'),
      ])
      .execute();
    const answers = asked.map((): FoundPage | null => null);
    for (const row of rows) {
      const { n, person, staff, course_right, joined, member, scorer, withdrawn, ...rest } = row;
      const { state, handed_stored, page_stored, ...thing } = rest;
      const isHidden = thing.kind === 'class page' ? page_stored : handed_stored === true;
      const isSeen = (state === 'open' || state === 'to read') && withdrawn === null && !isHidden;
      const part = {
        own: isSeen && thing.student_id === person,
        shares: isSeen && member !== null,
        scores: isSeen && scorer,
        here: joined !== null,
        state,
        isHidden,
      };
      answers[n - 1] = { relation: relationTo(thing, staff, course_right, part), thing };
    }
    return answers;
  });
  return async (person: string, id: string) => (isId(id) ? read({ person, id }) : null);
}
