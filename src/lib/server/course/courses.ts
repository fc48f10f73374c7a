import type { Database } from '../db/connect';
import type { CourseRight } from '../db/schema';
import type { Grant } from '../access/grant';
import { notify } from '../message/messages';
import { Refusal } from '../page/refusal';
import { inTransaction } from '../db/transaction';

/** A teacher's courses, with what is in each. */
export const readCourses = (db: Database, teacher: string) =>
  db
    .selectFrom('course_staff')
    .innerJoin('course', 'course.id', 'course_staff.course_id')
    .select((eb) => [
      'course.id',
      'course.title',
      'course_staff.may',
      eb
        .selectFrom('unit')
        .whereRef('unit.course_id', '=', 'course.id')
        .where('away_at', 'is', null)
        .select((unit) => unit.cast<number>(unit.fn.countAll(), 'integer').as('n'))
        .as('units'),
      eb
        .selectFrom('page')
        .whereRef('page.course_id', '=', 'course.id')
        .where('away_at', 'is', null)
        .select((page) => page.cast<number>(page.fn.countAll(), 'integer').as('n'))
        .as('pages'),
      eb
        .selectFrom('course_staff as owner')
        .innerJoin('person', 'person.id', 'owner.person_id')
        .whereRef('owner.course_id', '=', 'course.id')
        .where('owner.may', '=', 'own')
        .select((name) => name.fn.min('person.called').as('called'))
        .as('owner'),
    ])
    .where('course_staff.person_id', '=', teacher)
    .where('course.away_at', 'is', null)
    .orderBy('course.title')
    .execute();

/** The courses that a teacher owns and has removed. */
export const readRemovedCourses = (db: Database, teacher: string) =>
  db
    .selectFrom('course_staff')
    .innerJoin('course', 'course.id', 'course_staff.course_id')
    .select(['course.id', 'course.title'])
    .where('course_staff.person_id', '=', teacher)
    .where('may', '=', 'own')
    .where('course.away_at', 'is not', null)
    .orderBy('course.title')
    .execute();

/**
 * Removes a course from everybody's list, or brings it back with all that is in it. Classes of it go on with what they
 * have.
 */
export const setCourseAway = (db: Database, { thing }: Grant<'share the course'>, away: boolean) =>
  db
    .updateTable('course')
    .set({ away_at: away ? new Date() : null })
    .where('id', '=', thing.id)
    .execute();

const ledClasses = (db: Database, teacher: string) =>
  db
    .selectFrom('class_staff')
    .innerJoin('class', 'class.id', 'class_staff.class_id')
    .innerJoin('course', 'course.id', 'class.course_id')
    .innerJoin('term', 'term.id', 'class.term_id')
    .select(['class.id', 'class.name', 'class.course_id', 'course.title as course'])
    .select('term.name as term')
    .select((eb) => eb('archived_at', 'is not', null).$castTo<boolean>().as('archived'))
    .where('class_staff.person_id', '=', teacher)
    .where('class_staff.kind', 'in', ['lead', 'co-teacher'])
    .orderBy('class.name');

/** The classes in which a teacher may hand out, with their course. */
export const readOwnClasses = (db: Database, teacher: string) =>
  ledClasses(db, teacher).where('class.archived_at', 'is', null).execute();

/** Those, and the archived ones: what lies in them can be carried over. */
export const readClassesToCarryOver = (db: Database, teacher: string) =>
  ledClasses(db, teacher).execute();

/** A new course of one's own. @returns its id */
export async function beginCourse(
  db: Database,
  { person: owner }: Grant<'manage courses'>,
  title: string,
): Promise<string> {
  return inTransaction(db, async (tx) => {
    const { id } = await tx
      .insertInto('course')
      .values({ school_id: owner.school_id, title })
      .returning('id')
      .executeTakeFirstOrThrow();
    await tx
      .insertInto('course_staff')
      .values({ course_id: id, school_id: owner.school_id, person_id: owner.id, may: 'own' })
      .execute();
    return id;
  });
}

export const renameCourse = (
  db: Database,
  { thing }: Grant<'write the course'>,
  title: string,
): Promise<unknown> => db.updateTable('course').set({ title }).where('id', '=', thing.id).execute();

/** Who has a part in a course: whose it is, who writes in it, who uses it. */
export const readCourseSharers = (db: Database, course: string) =>
  db
    .selectFrom('course_staff')
    .innerJoin('person', 'person.id', 'course_staff.person_id')
    .select(['person.id', 'person.given', 'person.family', 'course_staff.may'])
    .where('course_id', '=', course)
    .orderBy('course_staff.may')
    .orderBy('person.family')
    .execute();

/** Other teachers of the school, to share with. */
export const readColleagues = (db: Database, person: { id: string; school_id: number }) =>
  db
    .selectFrom('person')
    .select(['id', 'given', 'family'])
    .where('school_id', '=', person.school_id)
    .where('role', '=', 'teacher')
    .where('name_only', '=', false)
    .where('id', '<>', person.id)
    .orderBy('family')
    .execute();

/** Gives a colleague a right to a course or, with null, takes it back; they are told. @throws Refusal when nobody would own it */
export async function shareCourse(
  db: Database,
  { thing: course, person: by }: Grant<'share the course'>,
  colleague: string,
  may: CourseRight | null,
): Promise<void> {
  await inTransaction(db, async (tx) => {
    const known = await tx
      .selectFrom('person')
      .select('id')
      .where('id', '=', colleague)
      .where('school_id', '=', course.school_id)
      .where('role', '=', 'teacher')
      .where('name_only', '=', false)
      .executeTakeFirst();
    if (!known) throw new Refusal(404, 'There is no such teacher in this school.');
    const staff = await tx
      .selectFrom('course_staff')
      .select(['person_id', 'may'])
      .where('course_id', '=', course.id)
      .forUpdate()
      .execute();
    if (may !== 'own' && !staff.some((one) => one.may === 'own' && one.person_id !== colleague))
      throw new Refusal(409, 'A course needs somebody whose it is. Make it somebody else’s first.');
    if (colleague !== by.id)
      await notify(tx, {
        school: course.school_id,
        people: [colleague],
        link: may ? `/courses/${course.id}` : '/courses',
        fact: {
          kind: 'course shared',
          course: course.title,
          may,
          by: by.called || by.given,
        },
        cause: `course ${course.id} ${Date.now()}`,
      });
    if (!may) {
      await tx
        .deleteFrom('course_staff')
        .where('course_id', '=', course.id)
        .where('person_id', '=', colleague)
        .execute();
      return;
    }
    await tx
      .insertInto('course_staff')
      .values({ course_id: course.id, school_id: course.school_id, person_id: colleague, may })
      .onConflict((conflict) => conflict.columns(['course_id', 'person_id']).doUpdateSet({ may }))
      .execute();
  });
}
