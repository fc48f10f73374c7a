import { sql } from 'kysely';
import { HandOutSpec } from '$core/handout/spec';
import { readRubric } from '$core/marking/rubric';
import type { ClassThing } from '../access/relation';
import type { SignedIn } from '../access/session';
import type { Using } from '../services';
import { readGroupings } from '../class/groups';
import { keysOf } from '../course/answer-keys';
import { isNoBlank, readUnitsOfCourse } from '../course/units';
import { readSituation } from './situation';

/** The classes in which somebody may hand out, each with what a plan needs of it. */
async function readHandOutClasses(app: Using<'db' | 'memory'>, person: SignedIn, now: number) {
  const rows = await app.db
    .selectFrom('class_staff')
    .innerJoin('class', 'class.id', 'class_staff.class_id')
    .innerJoin('course', 'course.id', 'class.course_id')
    .innerJoin('school', 'school.id', 'class.school_id')
    .select(['class.id', 'class.name', 'course.title', 'time_zone'])
    .where('class_staff.person_id', '=', person.id)
    .where('class_staff.kind', 'in', ['lead', 'co-teacher'])
    .where('class.archived_at', 'is', null)
    .orderBy('class.name')
    .execute();
  if (rows.length === 0) return [];
  const { classes } = await readSituation(
    app.memory,
    app.db,
    HandOutSpec.parse({
      title: '-',
      originals: [],
      classes: rows.map(({ id }) => ({ class: id })),
    }),
    {
      now,
      goesOut: now,
      timeZone: rows[0]?.time_zone ?? 'UTC',
      school: person.school_id,
      blank: '',
    },
  );
  return Promise.all(
    rows.map(async (row) => ({
      ...row,
      facts: classes.find(({ id }) => id === row.id) ?? {
        id: row.id,
        name: row.name,
        open: false,
        students: [],
        groups: [],
        timetable: {
          timeZone: row.time_zone,
          slots: [],
          holidays: [],
          term: { starts: '', ends: '' },
        },
      },
      groupings: await readGroupings(app.db, row.id),
      units: (await readUnitsOfCourse(app.db, { class: row.id })).map((unit) => ({
        ...unit,
        title: unit.stored ? `${unit.title} (in the cupboard)` : unit.title,
      })),
    })),
  );
}

/** Pages that somebody may hand out, of every course they have a part in: originals, readings, adapted ones beside theirs. */
async function readCoursePages(app: Using<'db'>, person: string) {
  const rows = await app.db
    .selectFrom('page')
    .innerJoin('course', 'course.id', 'page.course_id')
    .innerJoin('course_staff', 'course_staff.course_id', 'course.id')
    .select([
      'page.id',
      'page.title',
      'page.kind',
      'page.adapted',
      'page.from_id',
      'page.unit_id as unit',
      'page.course_id as courseId',
      'course.title as course',
      keysOf('page.id').as('keys'),
    ])
    .where('course_staff.person_id', '=', person)
    .where('page.kind', 'in', ['original', 'reading'])
    .where('page.away_at', 'is', null)
    .leftJoin('unit', 'unit.id', 'page.unit_id')
    .orderBy('course.title')
    .orderBy('unit.place')
    .orderBy('page.place')
    .execute();
  return rows.map(({ adapted, from_id, ...page }) => ({
    ...page,
    adapts: adapted ? from_id : null,
    sameAs: null,
  }));
}

/** Pages of a class that can be handed out in it: what students read there, and what only staff see. */
async function readClassPages(app: Using<'db'>, { id, name }: Pick<ClassThing, 'id' | 'name'>) {
  const rows = await app.db
    .selectFrom('page')
    .leftJoin('page as source', 'source.id', 'page.from_id')
    .select(['page.id', 'page.title', 'page.unit_id as unit', 'page.area', 'page.from_id'])
    .select(keysOf('page.id').as('keys'))
    .select(sql<boolean>`page.version = 0 and page.from_version = source.version`.as('same'))
    .where('page.class_id', '=', id)
    .where('page.area', 'in', ['shelf', 'cupboard'])
    .where('page.away_at', 'is', null)
    .where(isNoBlank('page.id'))
    .orderBy('page.place')
    .execute();
  return rows.map(({ area, from_id, same, ...page }) => ({
    ...page,
    kind: area === 'shelf' ? ('reading' as const) : ('original' as const),
    courseId: null,
    course: `In ${name}`,
    adapts: null,
    sameAs: same ? from_id : null,
  }));
}

/** Which pages were handed out in a class already. */
export async function readHandedOutPages(app: Using<'db'>, klass: string): Promise<string[]> {
  const rows = await app.db
    .selectFrom('assignment_original')
    .innerJoin(
      'assignment_class',
      'assignment_class.assignment_id',
      'assignment_original.assignment_id',
    )
    .select('page_id')
    .distinct()
    .where('class_id', '=', klass)
    .execute();
  return rows.map(({ page_id }) => page_id);
}

/** Rubrics of those courses, with what they are worth. */
async function readUsableRubrics(app: Using<'db'>, person: string) {
  const rows = await app.db
    .selectFrom('rubric')
    .innerJoin('course_staff', 'course_staff.course_id', 'rubric.course_id')
    .select(['rubric.id', 'rubric.title', 'rubric.body'])
    .where('course_staff.person_id', '=', person)
    .where('rubric.away_at', 'is', null)
    .orderBy('rubric.title')
    .execute();
  return rows.map(({ id, title, body }) => ({ id, title, points: readRubric(body).total }));
}

/** The categories that were used in the school, for typing them once. */
async function readCategories(app: Using<'db'>, school: number): Promise<string[]> {
  const rows = await app.db
    .selectFrom('assignment')
    .select('category')
    .distinct()
    .where('school_id', '=', school)
    .where('category', '<>', '')
    .orderBy('category')
    .execute();
  return rows.map(({ category }) => category);
}

/** What somebody chooses from when they hand out in a class. */
export async function readWorld(
  app: Using<'db' | 'memory'>,
  person: SignedIn,
  klass: Pick<ClassThing, 'id' | 'name' | 'time_zone'>,
  now: number,
) {
  const [classes, own, ofCourses, rubrics, categories] = await Promise.all([
    readHandOutClasses(app, person, now),
    readClassPages(app, klass),
    readCoursePages(app, person.id),
    readUsableRubrics(app, person.id),
    readCategories(app, person.school_id),
  ]);
  // A page of the class that is still the same as one of a course that is listed is not offered beside it.
  const listed = new Set(ofCourses.map(({ id }) => id));
  const materials = [...own, ...ofCourses].map(({ sameAs, ...page }) => ({
    ...page,
    offered: page.adapts === null && !(sameAs && listed.has(sameAs)),
  }));
  return { classes, materials, rubrics, categories, timeZone: klass.time_zone, now };
}
