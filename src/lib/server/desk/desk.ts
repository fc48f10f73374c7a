import { DESK_SPAN, type DeskClass, type DeskView } from '$core/desk/desk-view';
import { lessonsAfter, lessonsOn, type Lesson, type Timetable } from '$core/calendar/lessons';
import { dayOf } from '$core/calendar/local-time';
import { asksForWork } from '$core/copy/state';
import type { SignedIn } from '../access/session';
import { readTimetables } from '../calendar/timetables';
import type { CopyRow } from '$core/copy/copy-row';
import { readCopies } from '../copy/facts';
import type { Database } from '../db/connect';
import { readDrafts } from '../handout/drafts';
import { readNames } from '../school/names';
import { readTimeZone } from '../school/time-zone';
import { readOwnClasses } from './own-classes';
import { readPace } from './pace';
import { readPutOff } from './put-off';
import { readQuestions } from './questions';

/** A lesson of a class, and the assignment that is due next there: of those with pages, where there are some. */
interface DeskLesson extends Lesson {
  class: string;
  assignment: { id: string; title: string } | null;
}

/** The day after today on which there are lessons next, in epoch milliseconds: when the first begins. */
interface NextDay {
  at: number;
  /** Classes, by their ids, in the order of their lessons. */
  classes: string[];
}

/** The archived classes of a teacher, the newest first. */
const readArchived = (db: Database, teacher: string) =>
  db
    .selectFrom('class_staff')
    .innerJoin('class', 'class.id', 'class_staff.class_id')
    .innerJoin('course', 'course.id', 'class.course_id')
    .innerJoin('term', 'term.id', 'class.term_id')
    .select(['class.id', 'class.name', 'course.title', 'term.name as term'])
    .where('class_staff.person_id', '=', teacher)
    .where('class.archived_at', 'is not', null)
    .orderBy('class.archived_at', 'desc')
    .execute();

async function readAssignments(db: Database, classes: readonly string[]) {
  const rows = await db
    .selectFrom('assignment_class')
    .innerJoin('assignment', 'assignment.id', 'assignment_class.assignment_id')
    .select(['assignment.id', 'assignment.title', 'class_id', 'due_at', 'form'])
    .where('class_id', 'in', classes)
    .where('withdrawn_at', 'is', null)
    .orderBy('due_at')
    .orderBy('handed_out_at')
    .orderBy('assignment.id')
    .execute();
  return rows.map(({ due_at, ...row }) => ({ ...row, due: due_at?.getTime() ?? null }));
}

/** When each class has its next lesson after now, and which have some on the next day of lessons. */
function lookAhead(timetables: ReadonlyMap<string, Timetable>, now: number, timeZone: string) {
  const today = dayOf(now, timeZone);
  const starts = [...timetables].flatMap(([id, timetable]) => {
    const lessons = lessonsAfter(timetable, now, 4);
    const next = lessons.find((lesson) => lesson.starts > now);
    const later = lessons.find((lesson) => dayOf(lesson.starts, timeZone) > today);
    return next ? [{ id, next: next.starts, later: later?.starts ?? Infinity }] : [];
  });
  const first = Math.min(...starts.map(({ later }) => later));
  const nextDay: NextDay | null = Number.isFinite(first)
    ? {
        at: first,
        classes: starts
          .filter(({ later }) => Number.isFinite(later))
          .filter(({ later }) => dayOf(later, timeZone) === dayOf(first, timeZone))
          .sort((a, b) => a.later - b.later)
          .map(({ id }) => id),
      }
    : null;
  return { nextLesson: Object.fromEntries(starts.map(({ id, next }) => [id, next])), nextDay };
}

/** What needs a hand now, across classes, and today's lessons. The number of statements is the same for all teachers. */
export async function readDesk(db: Database, teacher: SignedIn, now: number) {
  const timeZone = await readTimeZone(db, teacher.school_id);
  const rows = await readOwnClasses(db, teacher.id);
  const classes = rows.map(({ id, name, title, leads }): DeskClass => ({ id, name, title, leads }));
  const led = classes.filter(({ leads }) => leads).map(({ id }) => id);
  const view = {
    classes,
    archived: await readArchived(db, teacher.id),
    mayHandOut: led.length > 0,
    timeZone,
    putOff: await readPutOff(db, teacher.id),
    pace: await readPace(db, teacher.id),
  };
  const nothing: Omit<DeskView, 'lacking' | 'stuck' | 'office' | 'copies' | 'classes'> & {
    copies: CopyRow[];
    lessons: DeskLesson[];
    nextLesson: Record<string, number>;
    nextDay: NextDay | null;
  } = {
    assignments: [],
    copies: [],
    questions: [],
    drafts: [],
    closed: [],
    names: {},
    lessons: [],
    nextLesson: {},
    nextDay: null,
  };
  if (classes.length === 0) return { ...view, ...nothing };
  const ids = classes.map(({ id }) => id);
  const assignments = await readAssignments(db, ids);
  const timetables = await readTimetables(db, teacher.school_id, ids);
  const lessons = ids.flatMap((id) => {
    const timetable = timetables.get(id);
    const all = assignments.filter(({ class_id }) => class_id === id);
    const written = all.filter(({ form }) => form === 'pages');
    const theirs = written.length > 0 ? written : all;
    const next = theirs.find(({ due }) => due !== null && due > now) ?? theirs.at(-1);
    return (timetable ? lessonsOn(timetable, dayOf(now, timeZone)) : []).map(
      (lesson): DeskLesson => ({
        ...lesson,
        class: id,
        assignment: next ? { id: next.id, title: next.title } : null,
      }),
    );
  });
  const copies = (
    await readCopies(
      db,
      {
        desk: ids,
        dueFrom: new Date(now - DESK_SPAN.before),
        dueTo: new Date(now + DESK_SPAN.after),
        also: lessons.flatMap(({ class: id, assignment }) =>
          assignment ? [{ assignment: assignment.id, class: id }] : [],
        ),
      },
      teacher.id,
    )
  ).filter(asksForWork);
  const byId = new Map(classes.map((klass) => [klass.id, klass]));
  const inClass = <T extends { class_id: string }, R>(
    rows: readonly T[],
    as: (row: T, klass: DeskClass) => R,
  ): R[] =>
    rows.flatMap((row) => {
      const klass = byId.get(row.class_id);
      return klass ? [as(row, klass)] : [];
    });
  const closed = rows.filter(
    ({ id, leads, opened_at, opens_at }) =>
      leads &&
      opened_at === null &&
      (opens_at !== null || assignments.some(({ class_id }) => class_id === id)),
  );
  return {
    ...view,
    copies,
    names: await readNames(
      db,
      copies.flatMap((copy) => copy.members),
    ),
    questions: await readQuestions(db, teacher.id, ids),
    assignments: inClass(assignments, ({ id, title, due }, klass) => ({
      id,
      title,
      due,
      class: klass,
    })),
    drafts: inClass(await readDrafts(db, led), ({ id, spec, goesOut, fault }, klass) => ({
      id,
      title: spec.title,
      goesOut,
      fault,
      class: klass,
    })),
    closed: inClass(
      closed.map((row) => ({ ...row, class_id: row.id })),
      ({ opens_at }, klass) => ({ class: klass, opens: opens_at?.getTime() ?? null }),
    ),
    lessons: lessons.sort((a, b) => a.starts - b.starts),
    ...lookAhead(timetables, now, timeZone),
  };
}
