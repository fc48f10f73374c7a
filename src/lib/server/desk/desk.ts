import { DESK_SPAN, type DeskClass, type DeskView } from '$core/desk/desk-lines';
import { lessonsOn } from '$core/calendar/lessons';
import { dayOf, writeLocalTime } from '$core/calendar/local-time';
import { asksForWork } from '$core/copy/state';
import type { SignedIn } from '../access/session';
import { may } from '../access/table';
import { readTimetables } from '../calendar/timetables';
import { openLoss, type CopyRow } from '$core/copy/copy-row';
import { readCopies } from '../copy/facts';
import type { Database } from '../db/connect';
import { countClasses, mayLackCopies } from '../headcount/count';
import { readDrafts } from '../handout/drafts';
import { readNames } from '../school/names';
import { readTimeZone } from '../school/time-zone';

interface DeskLesson {
  class: string;
  name: string;
  title: string;
  /** "14:00" on the school's clock. */
  starts: string;
  ends: string;
  now: boolean;
  /** The assignment that is due next. */
  assignment: { id: string; title: string } | null;
}

const readClasses = (db: Database, teacher: string) =>
  db
    .selectFrom('class_staff')
    .innerJoin('class', 'class.id', 'class_staff.class_id')
    .innerJoin('course', 'course.id', 'class.course_id')
    .select(['class.id', 'class.name', 'course.title', 'class_staff.kind'])
    .where('class_staff.person_id', '=', teacher)
    .where('class.archived_at', 'is', null)
    .orderBy('class.name')
    .execute();

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
    .select(['assignment.id', 'assignment.title', 'class_id', 'due_at'])
    .where('class_id', 'in', classes)
    .where('withdrawn_at', 'is', null)
    .orderBy('due_at')
    .execute();
  return rows.map(({ due_at, ...row }) => ({ ...row, due: due_at?.getTime() ?? null }));
}

/** What needs a hand now, across classes, and today's lessons. The number of statements is the same for all teachers. */
export async function readDesk(db: Database, teacher: SignedIn, now: number) {
  const timeZone = await readTimeZone(db, teacher.school_id);
  const classes = await readClasses(db, teacher.id);
  const mayHandOut = classes.filter(({ kind }) => may('hand out', kind)).map(({ id }) => id);
  const view = {
    classes: classes.map(({ id, name, title }) => ({ id, name, title })),
    archived: await readArchived(db, teacher.id),
    mayHandOut: mayHandOut.length > 0,
    timeZone,
  };
  const nothing: Omit<DeskView, 'lacking'> & { copies: CopyRow[] } = {
    assignments: [],
    copies: [],
    drafts: [],
    names: {},
  };
  if (classes.length === 0) return { ...view, ...nothing, lessons: [] };
  const ids = classes.map(({ id }) => id);
  const assignments = await readAssignments(db, ids);
  const timetables = await readTimetables(db, teacher.school_id, ids);
  const today = classes.flatMap((klass) => {
    const timetable = timetables.get(klass.id);
    const theirs = assignments.filter(({ class_id }) => class_id === klass.id);
    const next = theirs.find(({ due }) => due !== null && due > now) ?? theirs.at(-1);
    return (timetable ? lessonsOn(timetable, dayOf(now, timeZone)) : []).map((lesson) => ({
      klass,
      lesson,
      next,
    }));
  });
  const copies = (
    await readCopies(
      db,
      {
        desk: ids,
        dueFrom: new Date(now - DESK_SPAN.before),
        dueTo: new Date(now + DESK_SPAN.after),
        also: today.flatMap(({ klass, next }) =>
          next ? [{ assignment: next.id, class: klass.id }] : [],
        ),
      },
      teacher.id,
    )
  ).filter(asksForWork);
  const names = await readNames(
    db,
    copies.flatMap((copy) => (openLoss(copy) ? copy.members : [])),
  );
  const byId = new Map(view.classes.map((klass) => [klass.id, klass]));
  const inClass = <T extends { class_id: string }, R>(
    rows: readonly T[],
    as: (row: T, klass: DeskClass) => R,
  ): R[] =>
    rows.flatMap((row) => {
      const klass = byId.get(row.class_id);
      return klass ? [as(row, klass)] : [];
    });
  const clock = (at: number) => writeLocalTime(at, timeZone).slice(11);
  return {
    ...view,
    copies,
    names,
    assignments: inClass(assignments, ({ id, title, due }, klass) => ({
      id,
      title,
      due,
      class: klass,
    })),
    drafts: inClass(await readDrafts(db, mayHandOut), ({ id, spec, goesOut, fault }, klass) => ({
      id,
      title: spec.title,
      goesOut,
      fault,
      class: klass,
    })),
    lessons: today
      .sort((a, b) => a.lesson.starts - b.lesson.starts)
      .map(({ klass, lesson, next }): DeskLesson => ({
        class: klass.id,
        name: klass.name,
        title: klass.title,
        starts: clock(lesson.starts),
        ends: clock(lesson.ends),
        now: lesson.starts <= now && now < lesson.ends,
        assignment: next ? { id: next.id, title: next.title } : null,
      })),
  };
}

/** Who lacks copies in a teacher's classes, for the desk: read behind it, since a year's work is gone through for it. */
export async function readLacking(
  db: Database,
  teacher: SignedIn,
): Promise<Pick<DeskView, 'lacking' | 'names'>> {
  const ids = (await readClasses(db, teacher.id)).map(({ id }) => id);
  const counts = await countClasses(db, ids, await mayLackCopies(db, ids));
  const lacking = counts.flatMap(({ gaps }) =>
    gaps
      .filter(({ cause }) => cause !== 'emptied')
      .flatMap(({ assignment, class: of, students, since }) =>
        students.map((student) => ({ assignment, class: of, student, since })),
      ),
  );
  return {
    lacking,
    names: await readNames(
      db,
      lacking.map(({ student }) => student),
    ),
  };
}
