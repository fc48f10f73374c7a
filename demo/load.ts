import { sql } from 'kysely';
import { Temporal } from 'temporal-polyfill';
import { lessonsAfter, writeLocalTime, type LessonSlot } from '../src/lib/core/calendar/lessons';
import { plainWish } from '../src/lib/core/handout/wish';
import { countWords, doneMask, partsOf, textOf } from '../src/lib/core/page/parts';
import { hashPassword } from '../src/lib/server/access/session';
import type { App } from '../src/lib/server/app';
import type { EventKind } from '../src/lib/server/db/schema';
import { handOut } from '../src/lib/server/handout/hand-out';
import { HeldPage } from '../src/lib/server/page/held-page';
import { insertSteps, writeSnapshots, type StepRow } from '../src/lib/server/page/write-changes';
import { answersFor } from './answers';
import { Chance } from './chance';
import { fillClass } from './class-pages';
import { fillCourse, UNITS } from './course';
import { ORIGINALS, type DemoOriginal } from './originals';
import { PASSWORD, signInName, STAFF, STUDENTS_8C, STUDENTS_9A } from './people';
import { writeAnswers } from './write-copy';

const ZONE = 'Europe/Dublin';
const MINUTE = 60_000;
const DAY = 86_400_000;

/** How a copy stands when the demo begins. */
type Fate =
  | { is: 'unopened' | 'opened' | 'handed in' | 'late' }
  | { is: 'working'; parts: number }
  | { is: 'handed back' | 'revising' | 'marked'; points: string };

interface School {
  id: number;
  now: number;
  teacher: string;
  marker: string;
  class: string;
  course: string;
  students: string[];
  lessons: { starts: number; ends: number }[];
}

async function makePeople(app: App, chance: Chance, school_id: number) {
  const password_hash = await hashPassword(PASSWORD);
  const split = (name: string) => {
    const [given = '', family = ''] = name.split(' ');
    return { given, family, called: '', role: 'student' as const };
  };
  const all = [...STAFF, ...STUDENTS_8C.map(split), ...STUDENTS_9A.map(split)];
  const offered = STAFF.length + STUDENTS_8C.length;
  const rows = all.map((person, index) => ({
    ...{ id: chance.id(), school_id, password_hash, demo: index < offered, ...person },
    sign_in_name: signInName(person.given, person.family),
    email: `${signInName(person.given, person.family)}@skerry-point.example`,
  }));
  await app.db.insertInto('person').values(rows).execute();
  return new Map(rows.map((row) => [row.sign_in_name, row.id]));
}

/** Lessons on today's weekday, or Monday's on a weekend, and two school days later. */
function slotsFor(weekday: number): LessonSlot[] {
  const first = weekday > 5 ? 1 : weekday;
  const second = first > 3 ? first - 3 : first + 2;
  return [
    { weekday: first, starts: '14:00', ends: '14:50' },
    { weekday: second, starts: '10:50', ends: '11:40' },
  ];
}

async function makeSchool(app: App, chance: Chance, now: number): Promise<School> {
  const { id: school_id } = await app.db
    .insertInto('school')
    .values({ name: 'Skerry Point School', time_zone: ZONE })
    .returning('id')
    .executeTakeFirstOrThrow();
  const people = await makePeople(app, chance, school_id);
  const person = (name: string) => people.get(name) ?? '';
  const today = Temporal.Instant.fromEpochMilliseconds(now).toZonedDateTimeISO(ZONE).toPlainDate();
  const monday = today.subtract({ days: today.dayOfWeek - 1 });
  const begins = monday.subtract({ weeks: 6 });
  const [term, course, klass, other, otherClass] = Array.from({ length: 5 }, () => chance.id());
  if (!term || !course || !klass || !other || !otherClass) throw new Error('no ids');
  const db = app.db;
  const ends = begins.add({ days: 14 * 7 - 3 });
  await db
    .insertInto('term')
    .values({
      id: term,
      school_id,
      name: 'Autumn term',
      starts: begins.toString(),
      ends: ends.toString(),
    })
    .execute();
  const holiday = monday.add({ weeks: 1 });
  await db
    .insertInto('holiday')
    .values({
      school_id,
      name: 'holiday',
      starts: holiday.toString(),
      ends: holiday.add({ days: 6 }).toString(),
    })
    .execute();
  const courses = [
    { id: course, school_id, title: 'Coast & Chart' },
    { id: other, school_id, title: 'Weather and sky' },
  ];
  await db.insertInto('course').values(courses).execute();
  const opened_at = new Date(Date.parse(begins.toString()) + 8 * 60 * MINUTE);
  const classes = [
    { id: klass, school_id, course_id: course, term_id: term, name: '8C', opened_at },
    { id: otherClass, school_id, course_id: other, term_id: term, name: '9A', opened_at },
  ];
  await db.insertInto('class').values(classes).execute();
  const staff = [
    { class_id: klass, person_id: person('tamsin.orrey'), kind: 'lead' as const },
    { class_id: klass, person_id: person('bea.lindqvist'), kind: 'marker' as const },
    { class_id: otherClass, person_id: person('idris.halvorsen'), kind: 'lead' as const },
    { class_id: otherClass, person_id: person('tamsin.orrey'), kind: 'co-teacher' as const },
  ];
  await db
    .insertInto('class_staff')
    .values(staff.map((row) => ({ ...row, school_id })))
    .execute();
  const courseStaff = [
    { course_id: course, person_id: person('tamsin.orrey'), may: 'own' as const },
    { course_id: other, person_id: person('idris.halvorsen'), may: 'own' as const },
    { course_id: course, person_id: person('idris.halvorsen'), may: 'use' as const },
  ];
  await db
    .insertInto('course_staff')
    .values(courseStaff.map((row) => ({ ...row, school_id })))
    .execute();
  const ids = (names: readonly string[]) =>
    names.map((name) => person(name.toLowerCase().replace(' ', '.')));
  const enrolments = [
    ...ids(STUDENTS_8C).map((person_id) => ({ class_id: klass, person_id })),
    ...ids(STUDENTS_9A).map((person_id) => ({ class_id: otherClass, person_id })),
  ];
  await db
    .insertInto('enrolment')
    .values(enrolments.map((row) => ({ ...row, school_id, joined_at: opened_at })))
    .execute();
  const slots = slotsFor(today.dayOfWeek);
  await db
    .insertInto('lesson_slot')
    .values(slots.map((slot) => ({ ...slot, school_id, class_id: klass })))
    .execute();
  await db
    .insertInto('unit')
    .values(
      UNITS.map((title, place) => ({
        school_id,
        class_id: klass,
        title,
        place,
      })),
    )
    .execute();
  const groups = await db
    .insertInto('grouping')
    .values({ school_id, class_id: klass, name: 'Crews' })
    .returning('id')
    .executeTakeFirstOrThrow();
  for (const [place, name] of ['Gannet', 'Tern', 'Skua', 'Petrel', 'Fulmar', 'Eider'].entries()) {
    const { id } = await db
      .insertInto('grouping_group')
      .values({ school_id, grouping_id: groups.id, name, place })
      .returning('id')
      .executeTakeFirstOrThrow();
    const crew = ids(STUDENTS_8C).filter((_, index) => index % 6 === place);
    await db
      .insertInto('group_member')
      .values(
        crew.map((person_id) => ({ group_id: id, grouping_id: groups.id, school_id, person_id })),
      )
      .execute();
  }
  return {
    ...{ id: school_id, now, teacher: person('tamsin.orrey'), marker: person('bea.lindqvist') },
    ...{ class: klass, course, students: ids(STUDENTS_8C) },
    lessons: lessonsAfter(slots, [], ZONE, opened_at.getTime(), 40),
  };
}

interface Assigned {
  original: DemoOriginal;
  /** Indexes into the class's lessons: handed out at the start, due at the end. */
  out: number;
  due: number;
  unit: number;
  points: string;
  instructions: string;
  fate: (student: number) => Fate;
}

const scores = (chance: Chance, most: number) =>
  String(most - chance.whole(0, Math.floor(most * 0.9)) / 2);

function plans(chance: Chance, today: number): Assigned[] {
  const of = (key: DemoOriginal['key']) => {
    const original = ORIGINALS.find((one) => one.key === key);
    if (!original) throw new Error(`no original ${key}`);
    return original;
  };
  return [
    {
      ...{ original: of('symbols'), out: 0, due: 2, unit: 0, points: '12' },
      instructions: 'Work from the paper chart, not from memory.',
      fate: () => ({ is: 'handed back', points: scores(chance, 12) }),
    },
    {
      ...{ original: of('twelfths'), out: 3, due: 5, unit: 0, points: '10' },
      instructions: 'Show the unit in your sentences, too.',
      fate: (n) => {
        if (n === 3) return { is: 'unopened' };
        if (n === 6) return { is: 'revising', points: '4.5' };
        if (n === 9 || n === 14) return { is: 'late' };
        return n % 5 === 1
          ? { is: 'marked', points: scores(chance, 10) }
          : { is: 'handed back', points: scores(chance, 10) };
      },
    },
    {
      ...{ original: of('light'), out: 7, due: today - 1, unit: 1, points: '20' },
      instructions: 'The light list hangs beside the window.',
      fate: (n) => {
        if ([5, 8, 11, 13, 16, 19, 21].includes(n)) return { is: 'handed in' };
        if (n === 6) return { is: 'working', parts: 2 };
        if (n === 4) return { is: 'opened' };
        return n === 17 ? { is: 'late' } : { is: 'handed back', points: scores(chance, 20) };
      },
    },
    {
      ...{ original: of('sketch'), out: today - 1, due: today + 1, unit: 1, points: '20' },
      instructions:
        'Use your own pencil sketch from the quay. If you were away, take Teo’s numbers and say so.',
      fate: (n) => {
        if ([2, 4, 14, 20].includes(n)) return { is: 'unopened' };
        if ([3, 7].includes(n)) return { is: 'opened' };
        if ([1, 5, 9].includes(n)) return { is: 'handed in' };
        return { is: 'working', parts: 1 + (n % 5) };
      },
    },
  ];
}

/** Writes one copy's history as its student would have made it. */
async function writeCopy(
  app: App,
  chance: Chance,
  school: School,
  copy: {
    id: string;
    student: string;
    page: HeldPage;
    out: number;
    due: number;
    lessons: number[];
  },
  plan: Assigned,
  fate: Fate,
) {
  const events: { kind: EventKind; at: number; person: string; note?: string }[] = [];
  const givenScores: { points: string; at: number }[] = [];
  const { student } = copy;
  if (fate.is !== 'unopened')
    events.push({ kind: 'opened', at: copy.out + chance.whole(2, 14) * MINUTE, person: student });
  let held = copy.page;
  const rows: StepRow[] = [];
  const snapshots: HeldPage[] = [];
  const client = `demo-${copy.id.slice(0, 8)}`;
  const write = (answers: Parameters<typeof writeAnswers>[2], sittings: number[]) => {
    for (const { step, at } of writeAnswers(chance, held.doc, answers, sittings).steps) {
      if (at >= school.now) break;
      held = held.with(step, client, held.version + 1, student, at);
      rows.push({
        ...{ page_id: copy.id, version: held.version, school_id: school.id, author_id: student },
        ...{ at: new Date(at), client, client_no: held.version, body: step.toJSON() as object },
      });
      if (held.wantsSnapshot) {
        snapshots.push(held);
        held = held.snapshotTaken();
      }
    }
  };
  const began = copy.out + chance.whole(3, 15) * MINUTE;
  const evening = copy.out + chance.whole(5, 8) * 60 * MINUTE;
  const sittings = [began, ...(chance.happens(60) ? [evening] : []), ...copy.lessons]
    .filter((at) => at < school.now - 5 * MINUTE)
    .sort((a, b) => a - b)
    .slice(0, 3);
  const answers = answersFor(chance, plan.original.key);
  if (fate.is === 'working') write(answers.slice(0, fate.parts), sittings);
  else if (fate.is !== 'unopened' && fate.is !== 'opened') write(answers, sittings);

  if (!['unopened', 'opened', 'working'].includes(fate.is)) {
    const late = fate.is === 'late' ? chance.whole(20, 60) * 60 * MINUTE : 0;
    const inTime = Math.min(
      copy.due - chance.whole(1, 30) * MINUTE,
      held.lastAt + chance.whole(2, 9) * MINUTE,
    );
    const handedIn = Math.max(
      held.lastAt + MINUTE,
      late ? Math.min(copy.due + late, school.now - 5 * MINUTE) : inTime,
    );
    const note = chance.happens(15) ? 'I was not sure about the last one.' : '';
    events.push({ kind: 'handed in', at: handedIn, person: student, note });
    if ('points' in fate) {
      const at = Math.min(copy.due + DAY + chance.whole(0, 90) * MINUTE, school.now - 20 * MINUTE);
      events.push({ kind: 'looked', at: at - 4 * MINUTE, person: school.teacher });
      givenScores.push({ points: fate.points, at });
      if (fate.is !== 'marked')
        events.push({ kind: 'handed back', at: at + 1000, person: school.teacher });
      if (fate.is === 'revising')
        write(
          [{ part: 'why', type: ' It turns at both ends, so it must be slow there.' }],
          [Math.min(at + 60 * MINUTE, school.now - 5 * MINUTE)],
        );
    }
  }
  return { held, rows, snapshots, events, scores: givenScores };
}

async function commentOn(
  app: App,
  school: School,
  page: string,
  held: HeldPage,
  quote: string,
  words: string[],
) {
  let from = -1;
  held.doc.descendants((node, pos) => {
    const at = node.isText ? (node.text?.indexOf(quote) ?? -1) : -1;
    if (at >= 0 && from < 0) from = pos + at;
  });
  if (from < 0) return;
  const to = from + quote.length;
  const place = {
    at_from: from,
    at_to: to,
    made_from: from,
    made_to: to,
    made_version: held.version,
  };
  const thread = await app.db
    .insertInto('thread')
    .values({ school_id: school.id, page_id: page, made_by: school.teacher, quote, ...place })
    .returning('id')
    .executeTakeFirstOrThrow();
  for (const text of words)
    await app.db
      .insertInto('comment')
      .values({
        school_id: school.id,
        thread_id: thread.id,
        person_id: school.teacher,
        kind: 'said',
        text,
      })
      .execute();
  await app.db
    .updateTable('page')
    .set((eb) => ({ threads: eb('threads', '+', 1) }))
    .where('id', '=', page)
    .execute();
}

async function handOutPlan(
  app: App,
  chance: Chance,
  school: School,
  plan: Assigned,
  original: string,
  unit: string,
) {
  const out = school.lessons[plan.out];
  const due = school.lessons[plan.due];
  if (!out || !due) throw new Error('the demo term has too few lessons');
  const id = chance.id();
  await handOut(app, {
    ...{ id, by: school.teacher, at: new Date(out.starts) },
    wish: plainWish(original, school.class, {
      ...{ title: plan.original.title, instructions: plan.instructions, points: plan.points },
      classes: [{ class: school.class, unit, grouping: null, due: null }],
      due: { kind: 'at', local: writeLocalTime(due.ends, ZONE) },
    }),
  });
  const copies = await app.db
    .selectFrom('page')
    .select(['id', 'student_id'])
    .where('assignment_id', '=', id)
    .execute();
  const between = school.lessons
    .slice(plan.out + 1, plan.due + 1)
    .map(({ starts }) => starts + 4 * MINUTE);
  const steps: StepRow[] = [];
  const kept: object[] = [];
  for (const [index, student] of school.students.entries()) {
    const copy = copies.find((one) => one.student_id === student);
    if (!copy) continue;
    const page = HeldPage.at(0, plan.original.page, []);
    const start = { id: copy.id, student, page, out: out.starts, due: due.ends, lessons: between };
    const written = await writeCopy(app, chance, school, start, plan, plan.fate(index));
    steps.push(...written.rows);
    const { held } = written;
    const withTeacher = written.events.findLast(
      ({ kind }) => kind === 'handed in' || kind === 'handed back',
    );
    if (held.version > 0) {
      kept.push({
        ...{ id: copy.id, version: held.version, done_mask: doneMask(partsOf(held.doc)) },
        ...{ words: countWords(textOf(held.doc)), written_at: new Date(held.lastAt) },
        with_teacher: withTeacher?.kind === 'handed in',
      });
      for (const snapshot of [...written.snapshots, held])
        await writeSnapshots(app.db, new Date(snapshot.lastAt), [
          { id: copy.id, school: school.id, held: snapshot },
        ]);
    }
    if (written.events.length > 0)
      await app.db
        .insertInto('event')
        .values(
          written.events
            .sort((a, b) => a.at - b.at)
            .map(({ kind, at, person, note }) => ({
              ...{ school_id: school.id, page_id: copy.id, person_id: person, at: new Date(at) },
              ...{ kind, version: held.version, note: note ?? '' },
            })),
        )
        .execute();
    for (const { points, at } of written.scores)
      await app.db
        .insertInto('score')
        .values({
          ...{ school_id: school.id, page_id: copy.id, person_id: school.teacher, points },
          ...{ at: new Date(at), version: held.version },
        })
        .execute();
    await commentOn(app, school, copy.id, held, 'you can’t just draw a straight line', [
      'This is the heart of it. What curve would you draw instead?',
    ]);
    await commentOn(app, school, copy.id, held, 'sees only the end light', [
      'Lovely detail. Which side of the boat is it on at that moment?',
    ]);
  }
  await insertSteps(app.db, steps);
  await sql`update page set version = r.version, done_mask = r.done_mask, words = r.words,
      written_at = r.written_at, with_teacher = r.with_teacher
    from jsonb_to_recordset(${JSON.stringify(kept)}::jsonb) as r(id uuid, version int, done_mask text, words int,
      written_at timestamptz, with_teacher boolean)
    where page.id = r.id`.execute(app.db);
}

/**
 * Fills an empty database with Skerry Point School, as it is six weeks into its term.
 * @param now epoch milliseconds; everything is made relative to it
 */
export async function loadDemo(app: App, now: number): Promise<void> {
  const chance = new Chance(8_032);
  const school = await makeSchool(app, chance, now);
  const originals = await fillCourse(app, {
    ...{ school: school.id, course: school.course, teacher: school.teacher },
    at: new Date((school.lessons[0]?.starts ?? now) - DAY),
  });
  await fillClass(app, {
    ...{ school: school.id, course: school.course, class: school.class },
    at: new Date(school.lessons[0]?.starts ?? now),
  });
  const units = await app.db
    .selectFrom('unit')
    .select('id')
    .where('class_id', '=', school.class)
    .orderBy('place')
    .execute();
  // The first lesson that has not ended yet; work that is "due at the next but one" is due in some days.
  const today = school.lessons.findIndex(({ ends }) => ends > now);
  for (const plan of plans(chance, today))
    await handOutPlan(
      app,
      chance,
      school,
      plan,
      originals.get(plan.original.key) ?? '',
      units[plan.unit]?.id ?? '',
    );
}
