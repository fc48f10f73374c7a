import { sql } from 'kysely';
import type { Database } from '../db/connect';
import { together } from '../db/together';
import type { PageRow } from '../db/schema';
import type { Relation } from './table';

export interface ClassThing {
  id: string;
  name: string;
  title: string;
  course_id: string;
  term_id: string;
  school_id: number;
  time_zone: string;
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
      'class.opened_at',
    ])
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
  const { staff, joined, opened_at, ...thing } = row;
  const relation: Relation = staff ?? (joined && opened_at ? 'student' : 'nobody');
  return { relation, thing: thing satisfies ClassThing };
}

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

/** A student's own copy, or one she shares, is hers to write in until she was given something else. */
function relationToCopy(
  thing: PageThing,
  staff: 'lead' | 'co-teacher' | 'marker' | null,
  isTheirs: boolean,
): Relation {
  if (staff) return staff;
  if (!isTheirs || thing.away_at !== null) return 'nobody';
  return thing.replaced_at !== null || thing.delivery === 'to read' ? 'reader' : 'owner';
}

/** Students read the shelf and the welcome page, and write on the worktable; the cupboard is the staff's. */
function relationToClassPage(
  { area, away_at }: PageThing,
  staff: 'lead' | 'co-teacher' | 'marker' | null,
  isStudent: boolean,
): Relation {
  if (staff) return staff === 'marker' ? 'user' : 'keeper';
  if (!isStudent || away_at !== null || area === 'cupboard') return 'nobody';
  return area === 'worktable' ? 'co-writer' : 'reader';
}

/** Finds what a page is to a person; null when there is no such page. */
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
        // Asked of class pages alone: a copy's student is known by the copy itself.
        eb
          .selectFrom('enrolment')
          .select('joined_at')
          .whereRef('enrolment.class_id', '=', 'page.class_id')
          .whereRef('enrolment.person_id', '=', 'asked.person')
          .where('page.kind', '=', 'class page')
          .where('left_at', 'is', null)
          .as('joined'),
        // Of copies: whether the person is one of those who share it, and whether it was withdrawn from the class.
        eb
          .selectFrom('page_member')
          .select('person_id')
          .whereRef('page_member.page_id', '=', 'page.id')
          .whereRef('page_member.person_id', '=', 'asked.person')
          .as('member'),
        eb
          .selectFrom('assignment_class')
          .select('withdrawn_at')
          .whereRef('assignment_class.assignment_id', '=', 'page.assignment_id')
          .whereRef('assignment_class.class_id', '=', 'page.class_id')
          .as('withdrawn'),
        eb
          .selectFrom('class')
          .select('opened_at')
          .whereRef('class.id', '=', 'page.class_id')
          .as('opened'),
      ])
      .execute();
    const answers = asked.map((): FoundPage | null => null);
    for (const row of rows) {
      const { n, person, staff, course_right, opened, joined, member, withdrawn, ...thing } = row;
      const isTheirs =
        (thing.student_id === person || member !== null) && opened !== null && withdrawn === null;
      const isStudent = opened !== null && joined !== null;
      const relation =
        thing.kind === 'class page'
          ? relationToClassPage(thing, staff, isStudent)
          : thing.class_id !== null
            ? relationToCopy(thing, staff, isTheirs)
            : course_right === null
              ? 'nobody'
              : course_right === 'use'
                ? 'user'
                : 'keeper';
      answers[n - 1] = { relation, thing };
    }
    return answers;
  });
  return async (person: string, id: string) => (isId(id) ? read({ person, id }) : null);
}
