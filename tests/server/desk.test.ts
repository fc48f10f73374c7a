import { beforeAll, describe, expect, it } from 'vitest';
import { deskLines } from '../../src/lib/core/desk/desk-lines';
import { plainSpec } from '../../src/lib/core/handout/spec';
import { opened, handIn } from '../../src/lib/server/copy/moves';
import { readOwnWork } from '../../src/lib/server/copy/own-work';
import { readCourses } from '../../src/lib/server/course/courses';
import { readDesk, readLacking } from '../../src/lib/server/desk/desk';
import { useApp } from '../support/app';
import { allowAs, copyOf, handOutAs } from '../support/deeds';
import { newPage, toSee, toWork } from '../support/grants';
import { makeSchool, questionPage, type TestSchool } from '../support/school';
import { countStatements } from '../support/statements';

const test = useApp();
let school: TestSchool;
let page = '';
/** The term of the test school goes from 1 September to 18 December 2026; this is a Tuesday in it. */
const NOW = Date.parse('2026-11-10T10:00:00Z');
const DAY = 86_400_000;

beforeAll(async () => {
  school = await makeSchool(test.app, 3);
  page = await newPage(
    test.app.db,
    { in: { kind: 'original', course: school.course }, title: 'Tide', at: new Date() },
    questionPage(),
  );
  const slot = { school_id: school.id, class_id: school.class, starts: '10:00', ends: '10:50' };
  await test.app.db
    .insertInto('lesson_slot')
    .values([2, 4].map((weekday) => ({ ...slot, weekday })))
    .execute();
  await test.app.db
    .insertInto('holiday')
    .values({
      school_id: school.id,
      name: 'Half term',
      starts: '2026-11-12',
      ends: '2026-11-13',
    })
    .execute();
});

const teacher = async () =>
  test.app.db
    .selectFrom('person')
    .select(['id', 'school_id', 'role', 'given', 'family', 'called'])
    .where('id', '=', school.teacher)
    .executeTakeFirstOrThrow();
const desk = async (now = NOW) => readDesk(test.app.db, await teacher(), now);
const lines = async () => {
  const behind = await readLacking(test.app.db, await teacher());
  return deskLines({ ...(await desk()), ...behind }, NOW);
};
async function out(title: string, local: string, klass = school.class) {
  const id = crypto.randomUUID();
  const spec = plainSpec(page, klass, { title, due: { kind: 'at', local } });
  await handOutAs(test.app, { id, spec, by: school.teacher, at: new Date(NOW - 5 * DAY) });
  return id;
}
const copyOfStudent = (assignment: string, student: number) =>
  copyOf(test.app, assignment, school.students[student] ?? '');

describe('the desk', () => {
  it('has today’s lessons of the school’s day, none in holidays and after the term', async () => {
    const lessons = async (at: string) =>
      (await desk(Date.parse(at))).lessons.map(({ name, starts, now }) => [name, starts, now]);
    expect(await lessons('2026-11-10T10:30:00Z')).toEqual([['7A', '10:00', true]]);
    expect(await lessons('2026-11-10T23:30:00Z')).toEqual([['7A', '10:00', false]]);
    expect(await lessons('2026-11-11T10:30:00Z')).toEqual([]);
    // A Thursday of the holiday, and a Tuesday after the term.
    expect(await lessons('2026-11-12T10:30:00Z')).toEqual([]);
    expect(await lessons('2026-12-22T10:30:00Z')).toEqual([]);
  });

  it('says what waits, whom to nudge and what is coming, each at their own due time', async () => {
    const id = await out('Soon', '2026-11-12T10:50');
    await out('Long ago', '2026-10-01T10:50');
    const [one = '', two = ''] = school.students;
    const first = await copyOfStudent(id, 0);
    await opened(test.app, await toSee(test.app, { page: first, person: one }));
    await handIn(test.app, await toWork(test.app, { page: first, person: one }), '');
    await allowAs(test.app, {
      by: school.teacher,
      assignment: id,
      class: school.class,
      student: two,
      kind: 'extension',
      due: new Date(NOW + 10 * DAY),
      note: '',
      at: new Date(),
    });
    expect(
      (await lines()).map(({ kind, title, places }) => [kind, title, places[0]?.count]),
    ).toEqual([
      ['answer', 'Soon', 1],
      ['nudge', 'Soon', 1],
      ['due', 'Soon', 0],
    ]);
  });

  it('takes as many statements for four classes as for one, and a student’s list for any work', async () => {
    const me = await teacher();
    const statements = () =>
      countStatements(test.app.db, async (db) => {
        await readDesk(db, me, NOW);
        await readLacking(db, me);
      });
    const [student = ''] = school.students;
    const list = () => countStatements(test.app.db, (db) => readOwnWork({ db }, student));
    const before = [await statements(), await list()];
    const known = await test.app.db
      .selectFrom('class')
      .selectAll()
      .where('id', '=', school.class)
      .executeTakeFirstOrThrow();
    for (const name of ['7X', '7Y', '7Z']) {
      const id = crypto.randomUUID();
      await test.app.db
        .insertInto('class')
        .values({ ...known, id, name })
        .execute();
      await test.app.db
        .insertInto('class_staff')
        .values({ school_id: school.id, class_id: id, person_id: me.id, kind: 'lead' })
        .execute();
      await test.app.db
        .insertInto('enrolment')
        .values({
          school_id: school.id,
          class_id: id,
          person_id: student,
          joined_at: new Date('2026-01-01'),
        })
        .execute();
      await out(`In ${name}`, '2026-11-12T10:50', id);
    }
    expect((await lines()).filter(({ title }) => title.startsWith('In 7')).length).toBe(6);
    expect([await statements(), await list()]).toEqual(before);
  });
});

it('a course counts its units but those that were removed', async () => {
  const unit = { school_id: school.id, course_id: school.course, place: 0 };
  await test.app.db
    .insertInto('unit')
    .values([
      { ...unit, title: 'Here' },
      { ...unit, title: 'Gone', away_at: new Date() },
    ])
    .execute();
  expect((await readCourses(test.app.db, school.teacher)).map(({ units }) => units)).toEqual([1]);
});
