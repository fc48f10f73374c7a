import { grouped } from '$core/lists/grouped';
import type { Grant } from '../access/grant';
import type { ClassThing } from '../access/relation';
import { readTimetables } from '../calendar/timetables';
import { readDrafts } from '../handout/drafts';
import type { Using } from '../services';
import type { Moment } from '../db/as-of';
import type { Database } from '../db/connect';
import {
  readClassesToCarryOver,
  readColleagues,
  readCourses,
  readOwnClasses,
} from '../course/courses';
import type { Holder } from '../course/units';
import { readAskedInto } from '../roster/join-requests';
import { readRosterChanges } from '../roster/apply-roster';
import { readBuild } from './build-class';
import { readBrought, readSource } from './build-source';
import { readGradeView } from '../grades/gradebook';
import { countClasses } from '../headcount/count';
import { readNames } from '../school/names';
import { readBoard, readStudents, readTerm } from './board';
import { readDeletedGroupings, readGroupedAssignments, readGroupings, readReached } from './groups';
import { readOpening } from './open-class';
import { findWelcome, readPlan, readStaff, readStudentPlan } from './plan';
import { readSlots } from './set-up';

/** The board of a class, as one of its staff sees it. @param at as it stood then */
export async function viewBoard(db: Database, grant: Grant<'see the class'>, at: Moment = null) {
  const { thing: klass, person } = grant;
  const reading = readBoard(db, klass.id, person.id, at);
  // Side by side: while the copies are taken in here, the database goes on.
  const [board, counts, opening, term, groupings, grades] = await Promise.all([
    reading,
    at
      ? reading.then(({ copies }) => countClasses(db, [klass.id], undefined, { at, copies }))
      : countClasses(db, [klass.id]),
    readOpening(db, klass.id),
    readTerm(db, klass),
    readGroupings(db, klass.id),
    readGradeView(db, klass.id, at),
  ]);
  const here = new Set(board.students.map(({ id }) => id));
  const gone = counts.flatMap(({ gaps }) => gaps.flatMap(({ students }) => students));
  return {
    klass,
    /** Of those whose gaps are left, and who are not in the class any more. */
    goneNames: await readNames(
      db,
      gone.filter((id) => !here.has(id)),
    ),
    /** When it stood so, in epoch milliseconds; null for now. */
    at: at?.getTime() ?? null,
    mayHandOut: grant.may('hand out'),
    opening,
    now: Date.now(),
    term,
    board,
    counts,
    groupings,
    grades,
    // What stood once is not mended.
    mayMend: at === null && grant.may('run the assignment'),
    mayMark: grant.may('mark'),
  };
}

/** The plan of a class: all of it for its staff, what they may see for its students. */
export async function viewPlan(app: Using<'db' | 'pages'>, grant: Grant<'see the plan'>) {
  const { thing, person, relation } = grant;
  const isStudent = relation === 'student';
  const welcome = await findWelcome(app.db, thing.id);
  const plan = isStudent
    ? { student: await readStudentPlan(app.db, thing.id, person.id), staff: null }
    : { student: null, staff: await readPlan(app.db, thing.id, person.id) };
  return {
    klass: {
      id: thing.id,
      name: thing.name,
      title: thing.title,
      timeZone: thing.time_zone,
      archived: thing.archived,
    },
    plan,
    welcome: welcome
      ? { ...welcome, doc: (await app.pages.open(welcome.id)).doc.toJSON() as object }
      : null,
    ...(await readOpening(app.db, thing.id)),
    staff: (await readStaff(app.db, thing.id)).map(({ given, family, called, kind }) => ({
      name: called || `${given} ${family}`,
      kind,
    })),
    build: isStudent ? null : await readBuild(app.db, thing.id),
    mayManage: grant.may('manage the class'),
    isStudent,
    now: Date.now(),
  };
}

/** Who is in a class, who left it, and how its roster changed. */
export async function viewRoster(
  app: Using<'db' | 'office'>,
  { thing: klass }: Grant<'manage the class'>,
) {
  const rows = await app.db
    .selectFrom('enrolment')
    .innerJoin('person', 'person.id', 'enrolment.person_id')
    .select(['person.id', 'given', 'family', 'email', 'sign_in_name', 'joined_at', 'left_at'])
    .select((eb) => eb('password_hash', '=', '').as('waits'))
    .where('class_id', '=', klass.id)
    .orderBy('family')
    .orderBy('given')
    .execute();
  const students = rows.map(({ joined_at, left_at, ...row }) => ({
    ...row,
    joined: joined_at.getTime(),
    left: left_at?.getTime() ?? null,
  }));
  return {
    klass,
    students: students.filter(({ left }) => left === null),
    left: students.filter(({ left }) => left !== null),
    changes: await readRosterChanges(app.db, klass.id),
    asked: await readAskedInto(app.db, klass.id),
    hasOffice: app.office !== null,
    now: Date.now(),
  };
}

/** What a class is called, who its staff are, when it has lessons. */
export async function viewSetUp(db: Database, grant: Grant<'manage the class'>) {
  const { thing: klass, person } = grant;
  const mayClose = grant.may('close the term');
  const { about, join_rule: joinRule } = await db
    .selectFrom('class')
    .select(['about', 'join_rule'])
    .where('id', '=', klass.id)
    .executeTakeFirstOrThrow();
  return {
    klass,
    about,
    joinRule,
    mayClose,
    staff: await readStaff(db, klass.id),
    colleagues: await readColleagues(db, person),
    slots: await readSlots(db, klass.id),
  };
}

/** What a class can be built from. `from`: the chosen source; null for the class's own course. */
export async function viewSources(
  app: Using<'db'>,
  { thing: klass, person }: Grant<'manage the class'>,
  from: Holder | null,
) {
  const courses = await readCourses(app.db, person.id);
  const classes = await readClassesToCarryOver(app.db, person.id);
  const isOwn = courses.some(({ id }) => id === klass.course_id);
  const source = from ?? (isOwn ? { course: klass.course_id } : null);
  const read = source ? await readSource(app, person, source, klass) : null;
  return {
    klass: { id: klass.id, name: klass.name },
    courses: courses.map(({ id, title, may, owner }) => ({ id, title, may, owner })),
    classes: classes.filter(({ id }) => id !== klass.id),
    from: source,
    source: read && {
      units: read.units,
      pages: read.pages,
      assignments: read.assignments,
      timetable: read.timetable,
      rules: read.rules,
    },
    into: await readParallel(app.db, person, klass, source),
    timeZone: klass.time_zone,
  };
}

/** A class and those beside it that are taught from the same course, with their lessons and what is set in them already. */
async function readParallel(
  db: Database,
  person: { id: string; school_id: number },
  klass: Pick<ClassThing, 'id' | 'course_id'>,
  source: Holder | null,
) {
  const isSource = (id: string) => source !== null && 'class' in source && source.class === id;
  const led = await readOwnClasses(db, person.id);
  const classes = led
    .filter(({ id, course_id }) => course_id === klass.course_id && !isSource(id))
    .sort((a, b) => Number(b.id === klass.id) - Number(a.id === klass.id));
  const ids = classes.map(({ id }) => id);
  const timetables = await readTimetables(db, person.school_id, ids);
  const titles = await readTitles(db, ids);
  const brought = await readBrought(db, ids);
  const views = classes.map(async ({ id, name }) => {
    const lessons = timetables.get(id);
    const slots = await readSlots(db, id);
    return lessons
      ? [{ id, name, lessons, slots, has: brought.get(id) ?? [], titles: titles.get(id) ?? [] }]
      : [];
  });
  return (await Promise.all(views)).flat();
}

/** The titles of what is handed out in classes, or about to be. */
async function readTitles(db: Database, classes: readonly string[]) {
  const drafts = await readDrafts(db, classes);
  const handed =
    classes.length === 0
      ? []
      : await db
          .selectFrom('assignment_class')
          .innerJoin('assignment', 'assignment.id', 'assignment_class.assignment_id')
          .select(['class_id', 'title'])
          .where('class_id', 'in', classes)
          .execute();
  const all = [...drafts.map(({ class_id, spec: { title } }) => ({ class_id, title })), ...handed];
  const by = grouped(all, ({ class_id }) => class_id);
  return new Map([...by].map(([id, rows]) => [id, rows.map(({ title }) => title)]));
}

export async function viewGroups(
  db: Database,
  { thing: klass, person }: Grant<'manage the class'>,
) {
  return {
    klass,
    students: await readStudents(db, klass.id),
    reached: await readReached(db, klass.id, person.id),
    groupings: await readGroupings(db, klass.id),
    deleted: await readDeletedGroupings(db, klass.id),
    grouped: await readGroupedAssignments(db, klass.id),
  };
}
