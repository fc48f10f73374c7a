import { beforeAll, describe, expect, it } from 'vitest';
import { deskLines } from '../../src/lib/core/desk/desk-lines';
import { plainSpec } from '../../src/lib/core/handout/spec';
import { grantByRole } from '../../src/lib/server/access/in-the-name-of';
import { opened, handIn } from '../../src/lib/server/copy/moves';
import { readOwnWork } from '../../src/lib/server/copy/own-work';
import { addComment, beginThread, readMargin } from '../../src/lib/server/copy/threads';
import { readCourses } from '../../src/lib/server/course/courses';
import { readBehind } from '../../src/lib/server/desk/behind';
import { putOff, readPutOff } from '../../src/lib/server/desk/put-off';
import { readDesk } from '../../src/lib/server/desk/desk';
import { useApp } from '../support/app';
import { allowAs, copyOf, handOutAs, setStaffAs } from '../support/deeds';
import { newPage, toComment, toSee, toWork } from '../support/grants';
import { addPerson, makeSchool, questionPage, type TestSchool } from '../support/school';
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

const person = async (id: string) =>
  test.app.db
    .selectFrom('person')
    .select(['id', 'school_id', 'role', 'given', 'family', 'called'])
    .where('id', '=', id)
    .executeTakeFirstOrThrow();
const teacher = () => person(school.teacher);
const own = () => grantByRole(test.app.db, 'see own desk', school.teacher);
const desk = async (now = NOW) => readDesk(test.app.db, await teacher(), now);
const lines = async () => {
  const behind = await readBehind(test.app.db, await own(), NOW);
  return deskLines({ ...(await desk()), ...behind, office: [] }, NOW);
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
      (await desk(Date.parse(at))).lessons.map(({ class: klass, starts, ends }) => [
        klass,
        new Date(starts).toISOString(),
        (ends - starts) / 60_000,
      ]);
    const lesson = [school.class, '2026-11-10T10:00:00.000Z', 50];
    expect(await lessons('2026-11-10T10:30:00Z')).toEqual([lesson]);
    expect(await lessons('2026-11-10T23:30:00Z')).toEqual([lesson]);
    expect(await lessons('2026-11-11T10:30:00Z')).toEqual([]);
    // A Thursday of the holiday, and a Tuesday after the term.
    expect(await lessons('2026-11-12T10:30:00Z')).toEqual([]);
    expect(await lessons('2026-12-22T10:30:00Z')).toEqual([]);
  });

  it('knows the next lessons of each class, and on which day they are', async () => {
    const ahead = async (at: string) => {
      const { nextLesson, nextDay } = await desk(Date.parse(at));
      return [nextLesson[school.class], nextDay?.at].map(
        (time) => time !== undefined && new Date(time).toISOString(),
      );
    };
    const [tuesday, next] = ['2026-11-10T10:00:00.000Z', '2026-11-17T10:00:00.000Z'];
    expect(await ahead('2026-11-10T09:00:00Z')).toEqual([tuesday, next]);
    // In the lesson the next one is after the holiday.
    expect(await ahead('2026-11-10T10:30:00Z')).toEqual([next, next]);
    expect(await ahead('2026-12-22T10:30:00Z')).toEqual([false, false]);
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
    const grant = await own();
    const statements = () =>
      countStatements(test.app.db, async (db) => {
        await readDesk(db, me, NOW);
        await readBehind(db, grant, NOW);
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

describe('questions in the margin', () => {
  const ask = async (page: string, person: string, text: string) =>
    beginThread(test.app, await toComment(test.app, { page, person }), { text, anchor: null });
  const asked = async (who: string) =>
    (await readDesk(test.app.db, await person(who), NOW)).questions.map(({ page }) => page);

  it('wait for those who lead, or who spoke in them, until somebody answers, settles or leaves', async () => {
    const [one = ''] = school.students;
    const marker = await addPerson(test.app, school, 'second', 'teacher');
    await setStaffAs(test.app, school.teacher, school.class, marker, 'marker');
    const id = await out('Asked', '2026-11-20T10:50');
    const page = await copyOfStudent(id, 0);
    await ask(page, one, 'Which tide?');
    expect(await asked(school.teacher)).toEqual([page]);
    expect(await asked(marker)).toEqual([]);
    const { threads } = await readMargin(test.app, page, { id: one, isStudent: false });
    const [thread] = threads;
    const say = async (who: string, kind: 'said' | 'settled', text: string) =>
      addComment(test.app, await toComment(test.app, { page, person: who }), thread?.id ?? '', {
        kind,
        text,
      });
    await say(marker, 'said', 'The lower one.');
    expect([await asked(school.teacher), await asked(marker)]).toEqual([[], []]);
    // They go on with who answered.
    await say(one, 'said', 'And why?');
    expect([await asked(school.teacher), await asked(marker)]).toEqual([[], [page]]);
    await say(marker, 'settled', '');
    expect(await asked(marker)).toEqual([]);
  });
});

describe('what somebody puts off', () => {
  const put = async (line: string, until: number | null, now = NOW) =>
    putOff(test.app.db, await own(), { line, until }, now);

  it('is theirs alone, and stays until the time, or until they bring it back', async () => {
    await put('answer a', NOW + DAY);
    await put('answer a', NOW + 2 * DAY);
    await put('due b', NOW + DAY);
    expect((await desk()).putOff).toEqual({ 'answer a': NOW + 2 * DAY, 'due b': NOW + DAY });
    const [one = ''] = school.students;
    expect(await readPutOff(test.app.db, one)).toEqual({});
    await put('answer a', null);
    // What is over goes with the next that is put off.
    await put('due c', NOW + 3 * DAY, NOW + 2 * DAY);
    expect((await desk()).putOff).toEqual({ 'due c': NOW + 3 * DAY });
  });

  it('cannot be put off to the past, nor for years; twenty at once end with one', async () => {
    await expect(put('answer a', NOW - 1)).rejects.toThrow('This time has passed');
    await expect(put('answer a', NOW + 400 * DAY)).rejects.toThrow('more than a year');
    await Promise.all(Array.from({ length: 20 }, (_, i) => put('answer a', NOW + DAY + i)));
    const { putOff: known } = await desk();
    expect(known['answer a']).toBeGreaterThan(NOW);
    expect(Object.keys(known)).toHaveLength(2);
  });
});

it('says which classes are closed though something is handed out in them', async () => {
  await test.app.db
    .updateTable('class')
    .set({ opened_at: null })
    .where('id', '=', school.class)
    .execute();
  const { closed } = await desk();
  expect(closed).toEqual([
    { class: expect.objectContaining({ id: school.class, leads: true }), opens: null },
  ]);
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
