import { Temporal } from 'temporal-polyfill';
import { asksForWork, flagsOf, stateOf } from '$core/copy/state';
import type { SignedIn } from '../access/session';
import { may } from '../access/table';
import { readCopies, type CopyRow } from '../copy/facts';
import type { Database } from '../db/connect';
import { readDrafts } from '../handout/drafts';

/** One thing that needs a teacher's hand, and where its one button leads. */
interface DeskLine {
  /** Of the assignment in its class, or of the draft. */
  id: string;
  kind: 'answer' | 'nudge' | 'coming';
  count: number;
  title: string;
  detail: string;
  button: string;
  to: string;
  mask: string;
  /** When it began to wait, or is due; epoch milliseconds. */
  since: number | null;
}

interface DeskLesson {
  class: string;
  name: string;
  title: string;
  starts: string;
  ends: string;
  now: boolean;
  copies: CopyRow[];
  /** Of the assignment that is due next. */
  assignment: string | null;
}

const DAY = 86_400_000;

const classesOf = (db: Database, teacher: string) =>
  db
    .selectFrom('class_staff')
    .innerJoin('class', 'class.id', 'class_staff.class_id')
    .innerJoin('course', 'course.id', 'class.course_id')
    .innerJoin('school', 'school.id', 'class.school_id')
    .select(['class.id', 'class.name', 'course.title', 'school.time_zone', 'class_staff.kind'])
    .where('class_staff.person_id', '=', teacher)
    .orderBy('class.name')
    .execute();

const assignmentsOf = (db: Database, klass: string) =>
  db
    .selectFrom('assignment_class')
    .innerJoin('assignment', 'assignment.id', 'assignment_class.assignment_id')
    .select(['assignment.id', 'assignment.title', 'due_at'])
    .where('class_id', '=', klass)
    .where('withdrawn_at', 'is', null)
    .orderBy('due_at')
    .execute();

const oldest = (times: (number | null)[]) => Math.min(...times.map((time) => time ?? Infinity));

/** What needs a hand now, across classes, oldest first, and today's lessons. */
export async function readDesk(db: Database, teacher: SignedIn, now: number) {
  const lines: DeskLine[] = [];
  const lessons: DeskLesson[] = [];
  const classes = await classesOf(db, teacher.id);
  for (const klass of classes) {
    const local = Temporal.Instant.fromEpochMilliseconds(now).toZonedDateTimeISO(klass.time_zone);
    const clock = local.toPlainTime().toString({ smallestUnit: 'minute' });
    const assignments = await assignmentsOf(db, klass.id);
    const copies = (await readCopies(db, { class: klass.id }, teacher.id)).filter(asksForWork);
    for (const assignment of assignments) {
      const theirs = copies.filter((copy) => copy.assignment === assignment.id);
      const here = `${assignment.id} ${klass.id}`;
      const place = `${klass.name} ${klass.title}`;
      const board = `/classes/${klass.id}`;
      const waiting = theirs.filter((copy) => stateOf(copy.facts) === 'handed in');
      const first = waiting[0];
      if (first)
        lines.push({
          id: here,
          kind: 'answer',
          count: waiting.length,
          title: assignment.title,
          button: 'Mark',
          detail: `${place} · handed in, waiting since`,
          to: `${board}/marking/${first.id}`,
          mask: first.mask,
          since: oldest(waiting.map((copy) => copy.facts.handedIn)),
        });
      const due = assignment.due_at?.getTime() ?? null;
      const unbegun = theirs.filter((copy) => ['unopened', 'opened'].includes(stateOf(copy.facts)));
      const idle = new Set(unbegun.flatMap(({ members }) => members)).size;
      const overdue = unbegun.filter((copy) => flagsOf(copy.facts, now).overdue).length;
      const soon = due !== null && due - now < 7 * DAY;
      if (unbegun.length > 0 && soon)
        lines.push({
          id: here,
          kind: 'nudge',
          count: idle,
          button: 'See who',
          to: `${board}?order=begun`,
          title: `${idle} ${idle === 1 ? 'has' : 'have'} not begun ${assignment.title}`,
          detail: overdue > 0 ? `${place} · overdue` : place,
          mask: unbegun[0]?.mask ?? '',
          since: due,
        });
      if (due !== null && due > now && due - now < 14 * DAY)
        lines.push({
          id: here,
          kind: 'coming',
          count: theirs.length,
          title: `${assignment.title} is due`,
          button: 'Look',
          detail: place,
          to: board,
          mask: '',
          since: due,
        });
    }
    if (may('hand out', klass.kind))
      for (const { id, wish, goesOut, fault } of await readDrafts(db, klass.id))
        lines.push({
          id,
          kind: 'coming',
          count: 1,
          since: goesOut,
          mask: '',
          title: `${wish.title} ${goesOut === null ? 'is a draft' : 'goes out'}`,
          detail: [`${klass.name} ${klass.title}`, fault].filter(Boolean).join(' · '),
          button: 'Finish',
          to: `/classes/${klass.id}/hand-out?draft=${id}`,
        });
    const slots = await db
      .selectFrom('lesson_slot')
      .select(['starts', 'ends'])
      .where('class_id', '=', klass.id)
      .where('weekday', '=', local.dayOfWeek)
      .execute();
    const next =
      assignments.find(({ due_at }) => due_at && due_at.getTime() > now) ?? assignments.at(-1);
    for (const slot of slots)
      lessons.push({
        class: klass.id,
        name: klass.name,
        title: klass.title,
        ...slot,
        now: slot.starts <= clock && clock < slot.ends,
        copies: copies.filter((copy) => copy.assignment === next?.id),
        assignment: next?.title ?? null,
      });
  }
  return {
    classes: classes.map(({ id, name, title }) => ({ id, name, title })),
    lines: lines.sort((a, b) => (a.since ?? Infinity) - (b.since ?? Infinity)),
    lessons: lessons.sort((a, b) => a.starts.localeCompare(b.starts)),
    mayHandOut: classes.some(({ kind }) => may('hand out', kind)),
    timeZone: classes[0]?.time_zone ?? 'UTC',
  };
}
