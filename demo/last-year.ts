import { Temporal } from 'temporal-polyfill';
import { lessonsAfter } from '../src/lib/core/calendar/lessons';
import { grantInClass } from '../src/lib/server/access/in-the-name-of';
import type { App } from '../src/lib/server/app';
import { writeArchive } from '../src/lib/server/archive/archives';
import { archiveClass } from '../src/lib/server/closing/archive-class';
import type { Chance } from './chance';
import { fillClass } from './class-pages';
import { UNITS, type Originals } from './course';
import { handOutPlan } from './hand-out-plan';
import { lastYearsPlans } from './plans';
import { DAY, RULES, ZONE, type School } from './school';

const YEAR = { weeks: 52 };

/** The term and the holiday of a year ago. */
async function makeTerm(app: App, school_id: number) {
  const year = (day: string) => Temporal.PlainDate.from(day).subtract(YEAR).toString();
  const one = async (table: 'term' | 'holiday') => {
    const row = await app.db
      .selectFrom(table)
      .select(['name', 'starts', 'ends'])
      .where('school_id', '=', school_id)
      .orderBy('starts')
      .executeTakeFirstOrThrow();
    const days = { starts: year(row.starts), ends: year(row.ends) };
    const { id } = await app.db
      .insertInto(table)
      .values({ school_id, name: `${row.name} ${days.starts.slice(0, 4)}`, ...days })
      .returning('id')
      .executeTakeFirstOrThrow();
    return { id, ...days };
  };
  return { term: await one('term'), holiday: await one('holiday') };
}

/** 8C of last year: the same lessons; its students are in 9A now. */
async function beginClass(app: App, chance: Chance, school: School) {
  const { db } = app;
  const { term, holiday } = await makeTerm(app, school.id);
  const id = chance.id();
  const opened_at = new Date(Date.parse(term.starts) + DAY / 3);
  const [now] = school.classes;
  await db
    .insertInto('class')
    .values({
      id,
      school_id: school.id,
      course_id: school.course,
      term_id: term.id,
      name: '8C',
      opened_at,
      grade_rules: JSON.stringify(RULES),
    })
    .execute();
  const staff = await db
    .selectFrom('class_staff')
    .select(['person_id', 'kind'])
    .where('class_id', '=', now?.id ?? '')
    .execute();
  await db
    .insertInto('class_staff')
    .values(staff.map((one) => ({ ...one, school_id: school.id, class_id: id })))
    .execute();
  const students = await db
    .selectFrom('enrolment')
    .innerJoin('class', 'class.id', 'enrolment.class_id')
    .innerJoin('person', 'person.id', 'enrolment.person_id')
    .select('person.id')
    .where('class.name', '=', '9A')
    .where('class.school_id', '=', school.id)
    .orderBy('person.family')
    .execute();
  await db
    .insertInto('enrolment')
    .values(
      students.map((student) => ({
        school_id: school.id,
        class_id: id,
        person_id: student.id,
        joined_at: opened_at,
      })),
    )
    .execute();
  const slots = await db
    .selectFrom('lesson_slot')
    .select(['weekday', 'starts', 'ends'])
    .where('class_id', '=', now?.id ?? '')
    .execute();
  await db
    .insertInto('lesson_slot')
    .values(slots.map((slot) => ({ ...slot, school_id: school.id, class_id: id })))
    .execute();
  const units = await db
    .insertInto('unit')
    .values(UNITS.map((title, place) => ({ school_id: school.id, class_id: id, title, place })))
    .returning('id')
    .execute();
  return {
    ends: Date.parse(term.ends) + (16 * DAY) / 24,
    klass: {
      id,
      name: '8C' as const,
      students: students.map((student) => student.id),
      units: units.map((unit) => unit.id),
      lessons: lessonsAfter(
        { timeZone: ZONE, slots, holidays: [holiday], term },
        opened_at.getTime(),
        40,
      ),
    },
  };
}

/** 8C of last year, with what was written and given in it, closed and archived at the end of its term. */
export async function fillLastYear(
  app: App,
  chance: Chance,
  school: School,
  originals: Originals,
): Promise<void> {
  const { klass, ends } = await beginClass(app, chance, school);
  const [first] = klass.lessons;
  await fillClass(app, {
    school: school.id,
    course: school.course,
    class: klass,
    teacher: school.teacher,
    at: new Date(first?.starts ?? ends),
  });
  const then: School = { ...school, now: ends, classes: [klass] };
  for (const plan of lastYearsPlans(chance)) await handOutPlan(app, chance, then, plan, originals);
  await archive(app, klass.id, school, new Date(ends));
}

async function archive(app: App, klass: string, school: School, at: Date): Promise<void> {
  const grant = await grantInClass(app.db, 'close the term', school.teacher, klass);
  const term = await app.db
    .selectFrom('class')
    .innerJoin('term', 'term.id', 'class.term_id')
    .select('term.ends')
    .where('class.id', '=', school.classes[0]?.id ?? '')
    .executeTakeFirstOrThrow();
  // It is made here, and not once more when the demo begins.
  await archiveClass({ ...app, jobs: { put: async () => undefined } }, grant, term.ends);
  await app.db.updateTable('class').set({ archived_at: at }).where('id', '=', klass).execute();
  await app.db.updateTable('class_event').set({ at }).where('class_id', '=', klass).execute();
  const { id } = await app.db
    .selectFrom('archive')
    .select('id')
    .where('class_id', '=', klass)
    .executeTakeFirstOrThrow();
  await writeArchive(app, id);
  await app.db.updateTable('archive').set({ made_at: at }).where('id', '=', id).execute();
  // What was told of it then is not in anybody's mailbox any more.
  await app.db
    .deleteFrom('message')
    .where('school_id', '=', school.id)
    .where('link', 'in', ['/', `/classes/${klass}/archive`])
    .execute();
}
