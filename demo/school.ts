import type { GradeRules } from '../src/lib/core/grades/rules';
import { Temporal } from 'temporal-polyfill';
import { lessonsAfter, type LessonSlot } from '../src/lib/core/calendar/lessons';
import { hashPassword } from '../src/lib/server/access/password';
import type { App } from '../src/lib/server/app';
import type { Chance } from './chance';
import { UNITS } from './course';
import { PASSWORD, signInName, STAFF, STUDENTS } from './people';

/** How the classes of Coast & Chart count. */
export const RULES: GradeRules = {
  total: 'weights',
  missing: 'zero',
  places: 1,
  categories: [
    { name: 'Tasks', weight: '40', drop: 0 },
    { name: 'Tests', weight: '60', drop: 0 },
  ],
  scale: [],
};

export const ZONE = 'Europe/Dublin';
export const MINUTE = 60_000;
export const DAY = 86_400_000;

/** A class that runs Coast & Chart this term. */
export interface DemoClass {
  id: string;
  name: '8A' | '8B' | '8C';
  students: string[];
  units: string[];
  /** From the first day of the term on, at most 40. */
  lessons: { starts: number; ends: number }[];
}

export interface School {
  id: number;
  now: number;
  teacher: string;
  /** Marks copies in some of her classes. */
  marker: string;
  course: string;
  /** 8C first: its lessons set the times at which work goes out. */
  classes: DemoClass[];
}

async function makePeople(app: App, chance: Chance, school_id: number) {
  const password_hash = await hashPassword(PASSWORD);
  const split = (name: string) => {
    const [given = '', family = ''] = name.split(' ');
    return { given, family, called: '', role: 'student' as const };
  };
  /** Whom the sign-in of the demo offers. */
  const offered: readonly string[] = STUDENTS['8C'];
  const students = Object.values(STUDENTS)
    .flat()
    .map((name) => ({ ...split(name), demo: offered.includes(name) }));
  const all = [...STAFF.map((person) => ({ ...person, demo: true })), ...students];
  const rows = all.map((person) => ({
    id: chance.id(),
    school_id,
    password_hash,
    ...person,
    sign_in_name: signInName(person.given, person.family),
    email: `${signInName(person.given, person.family)}@skerry-point.example`,
  }));
  await app.db.insertInto('person').values(rows).execute();
  return new Map(rows.map((row) => [row.sign_in_name, row.id]));
}

/** Lessons on today's weekday, or Monday's on a weekend, and two school days later; 8B has them a day after the others. */
function slotsFor(name: DemoClass['name'], today: number): LessonSlot[] {
  const weekday = today > 5 ? 1 : today;
  const first = name === '8B' ? (weekday % 5) + 1 : weekday;
  const second = first > 3 ? first - 3 : first + 2;
  const [one, two] = {
    '8A': [
      ['09:00', '09:50'],
      ['13:00', '13:50'],
    ],
    '8B': [
      ['11:45', '12:35'],
      ['09:00', '09:50'],
    ],
    '8C': [
      ['14:00', '14:50'],
      ['10:50', '11:40'],
    ],
  }[name];
  return [
    { weekday: first, starts: one?.[0] ?? '', ends: one?.[1] ?? '' },
    { weekday: second, starts: two?.[0] ?? '', ends: two?.[1] ?? '' },
  ];
}

async function makeCrews(app: App, school_id: number, klass: DemoClass) {
  const { id: grouping_id } = await app.db
    .insertInto('grouping')
    .values({ school_id, class_id: klass.id, name: 'Crews' })
    .returning('id')
    .executeTakeFirstOrThrow();
  for (const [place, name] of ['Gannet', 'Tern', 'Skua', 'Petrel', 'Fulmar', 'Eider'].entries()) {
    const { id: group_id } = await app.db
      .insertInto('grouping_group')
      .values({ school_id, grouping_id, name, place })
      .returning('id')
      .executeTakeFirstOrThrow();
    const crew = klass.students.filter((_, index) => index % 6 === place);
    await app.db
      .insertInto('group_member')
      .values(crew.map((person_id) => ({ group_id, grouping_id, school_id, person_id })))
      .execute();
  }
}

/** The school's calendar: the term that began six weeks ago, with a week off after the next, and the one that comes. */
async function makeTerm(app: App, id: string, school_id: number, monday: Temporal.PlainDate) {
  const begins = monday.subtract({ weeks: 6 });
  const days = {
    starts: begins.toString(),
    ends: begins.add({ days: 14 * 7 - 3 }).toString(),
  };
  await app.db
    .insertInto('term')
    .values([
      { id, school_id, name: 'Autumn term', ...days },
      {
        school_id,
        name: 'Spring term',
        starts: begins.add({ weeks: 16 }).toString(),
        ends: begins.add({ days: 28 * 7 - 3 }).toString(),
      },
    ])
    .execute();
  const off = monday.add({ weeks: 1 });
  const holiday = { starts: off.toString(), ends: off.add({ days: 6 }).toString() };
  await app.db
    .insertInto('holiday')
    .values({ school_id, name: 'holiday', ...holiday })
    .execute();
  return { days, holiday, opened_at: new Date(Date.parse(begins.toString()) + 8 * 60 * MINUTE) };
}

/** Joins 8C on Monday, when much was handed out already. */
const JOINER = 'Zina Okpara';

/** Lets somebody into 8C who was not there from the start. */
export async function letJoin(app: App, school: School): Promise<void> {
  const [given, family] = JOINER.split(' ');
  const joiner = await app.db
    .selectFrom('person')
    .select('id')
    .where('given', '=', given ?? '')
    .where('family', '=', family ?? '')
    .executeTakeFirstOrThrow();
  const today = Temporal.Instant.fromEpochMilliseconds(school.now).toZonedDateTimeISO(ZONE);
  const monday = today
    .subtract({ days: today.dayOfWeek - 1 })
    .withPlainTime('10:05').epochMilliseconds;
  await app.db
    .insertInto('enrolment')
    .values({
      school_id: school.id,
      class_id: school.classes[0]?.id ?? '',
      person_id: joiner.id,
      joined_at: new Date(Math.min(monday, school.now - 60 * MINUTE)),
    })
    .execute();
}

/** The people, the calendar, two courses and the classes that run them, with nothing in them yet. */
export async function makeSchool(app: App, chance: Chance, now: number): Promise<School> {
  const { db } = app;
  const { id: school_id } = await db
    .insertInto('school')
    .values({ name: 'Skerry Point School', time_zone: ZONE })
    .returning('id')
    .executeTakeFirstOrThrow();
  const people = await makePeople(app, chance, school_id);
  const person = (name: string) => people.get(name) ?? '';
  const ids = (names: readonly string[]) =>
    names.map((name) => person(name.toLowerCase().replace(' ', '.')));
  const today = Temporal.Instant.fromEpochMilliseconds(now).toZonedDateTimeISO(ZONE).toPlainDate();
  const term = chance.id();
  const { days, holiday, opened_at } = await makeTerm(
    app,
    term,
    school_id,
    today.subtract({ days: today.dayOfWeek - 1 }),
  );

  const coast = { id: chance.id(), school_id, title: 'Coast & Chart' };
  const sky = { id: chance.id(), school_id, title: 'Weather and sky' };
  await db.insertInto('course').values([coast, sky]).execute();
  const [tamsin, idris] = [person('tamsin.orrey'), person('idris.halvorsen')];
  await db
    .insertInto('course_staff')
    .values([
      { school_id, course_id: coast.id, person_id: tamsin, may: 'own' },
      { school_id, course_id: coast.id, person_id: idris, may: 'use' },
      { school_id, course_id: sky.id, person_id: idris, may: 'own' },
    ])
    .execute();

  const begin = async (name: keyof typeof STUDENTS, course_id: string) => {
    const id = chance.id();
    await db
      .insertInto('class')
      .values({
        id,
        school_id,
        course_id,
        term_id: term,
        name,
        opened_at,
        grade_rules: JSON.stringify(RULES),
      })
      .execute();
    await db
      .insertInto('enrolment')
      .values(
        ids(STUDENTS[name].filter((one) => one !== JOINER)).map((person_id) => ({
          school_id,
          class_id: id,
          person_id,
          joined_at: opened_at,
        })),
      )
      .execute();
    return id;
  };
  const classes: DemoClass[] = [];
  for (const name of ['8C', '8A', '8B'] as const) {
    const id = await begin(name, coast.id);
    const slots = slotsFor(name, today.dayOfWeek);
    await db
      .insertInto('lesson_slot')
      .values(slots.map((slot) => ({ ...slot, school_id, class_id: id })))
      .execute();
    const units = await db
      .insertInto('unit')
      .values(UNITS.map((title, place) => ({ school_id, class_id: id, title, place })))
      .returning('id')
      .execute();
    classes.push({
      id,
      name,
      students: ids(STUDENTS[name]),
      units: units.map((unit) => unit.id),
      lessons: lessonsAfter(
        { timeZone: ZONE, slots, holidays: [holiday], term: days },
        opened_at.getTime(),
        40,
      ),
    });
  }
  const [first] = classes;
  if (!first) throw new Error('the demo has no class');
  await makeCrews(app, school_id, first);
  const together = await begin('9A', sky.id);
  await db
    .insertInto('class_staff')
    .values([
      ...classes.map(({ id }) => ({
        school_id,
        class_id: id,
        person_id: tamsin,
        kind: 'lead' as const,
      })),
      ...[first, ...classes.filter(({ name }) => name === '8B')].map(({ id }) => ({
        school_id,
        class_id: id,
        person_id: person('bea.lindqvist'),
        kind: 'marker' as const,
      })),
      { school_id, class_id: together, person_id: idris, kind: 'lead' },
      { school_id, class_id: together, person_id: tamsin, kind: 'co-teacher' },
    ])
    .execute();
  const marker = person('bea.lindqvist');
  return { id: school_id, now, teacher: tamsin, marker, course: coast.id, classes };
}
