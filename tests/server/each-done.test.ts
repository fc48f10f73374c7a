import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { plainSpec } from '../../src/lib/core/handout/spec';
import { MessageFact } from '../../src/lib/core/messages/message';
import { readCopy } from '../../src/lib/server/copy/facts';
import { handBack } from '../../src/lib/server/copy/marking';
import { remind } from '../../src/lib/server/handout/notify-students';
import { removeCopies } from '../../src/lib/server/headcount/remove-copies';
import { grantOnAssignment } from '../../src/lib/server/access/in-the-name-of';
import { changeStudent } from '../../src/lib/server/roster/one-student';
import { useApp } from '../support/app';
import { changeAs, handOutAs } from '../support/deeds';
import { inClass, newPage, toMark } from '../support/grants';
import { makeSchool, PASSWORD, questionPage, type TestSchool } from '../support/school';
import { Server } from '../support/server';
import { Visitor } from '../support/visitor';

const test = useApp();
let server: Server;
let school: TestSchool;
let original: string;
/** The students, as they are signed in. */
let students: Visitor[];
let page: string;
let assignment: string;
const DUE = new Date('2031-05-06T09:00:00Z');

beforeAll(async () => {
  server = await Server.start(test.url);
});
afterAll(() => server.stop());

const spec = (handIn: 'each' | 'for all') =>
  plainSpec(original, school.class, {
    title: 'Words we found',
    originals: [{ page: original, delivery: 'one for all' }],
    due: { kind: 'at', local: '2031-05-06T10:00' },
    reminder: 60,
    handIn,
  });

beforeEach(async () => {
  school = await makeSchool(test.app, 4);
  original = await newPage(
    test.app.db,
    { in: { kind: 'original', course: school.course }, title: 'Words', at: new Date() },
    questionPage(),
  );
  assignment = crypto.randomUUID();
  await handOutAs(test.app, {
    id: assignment,
    spec: spec('each'),
    by: school.teacher,
    at: new Date(),
  });
  page = (
    await test.app.db
      .selectFrom('page')
      .select('id')
      .where('assignment_id', '=', assignment)
      .executeTakeFirstOrThrow()
  ).id;
  students = await Promise.all(
    school.students.map(async (_, n) => {
      const visitor = new Visitor(server.origin);
      await visitor.signIn(`student${n + 1}${school.id}`, PASSWORD);
      return visitor;
    }),
  );
});

const move = (n: number, what: 'hand in' | 'take back', note = '') =>
  students[n]?.send(`/pages/${page}/moves`, {
    move: what,
    ...(what === 'hand in' ? { note } : {}),
  });
const say = async (...who: number[]) => {
  for (const n of who) expect((await move(n, 'hand in'))?.status).toBe(200);
};
const events = async () =>
  (
    await test.app.db
      .selectFrom('event')
      .select('kind')
      .where('page_id', '=', page)
      .orderBy('id')
      .execute()
  ).map(({ kind }) => kind);
const isWithTeacher = async () =>
  (
    await test.app.db
      .selectFrom('page')
      .select('with_teacher')
      .where('id', '=', page)
      .executeTakeFirstOrThrow()
  ).with_teacher;
const mailOf = async (person: string) =>
  (
    await test.app.db.selectFrom('message').select('fact').where('person_id', '=', person).execute()
  ).map(({ fact }) => MessageFact.parse(fact).kind);

describe('a page of a class that each says done of', () => {
  it('is handed in once, by the last of those who say so in the same second; its staff hear of it then', async () => {
    await say(0);
    expect(await isWithTeacher()).toBe(false);
    expect(await mailOf(school.teacher)).not.toContain('handed in');
    const answers = await Promise.all([1, 2, 3, 3].map((n) => move(n, 'hand in', 'from us')));
    expect(answers.map((answer) => answer?.status).sort()).toEqual([200, 200, 200, 409]);
    expect((await events()).filter((kind) => kind === 'handed in')).toHaveLength(1);
    expect((await events()).filter((kind) => kind === 'said done')).toHaveLength(4);
    expect(await isWithTeacher()).toBe(true);
    expect(await mailOf(school.teacher)).toContain('handed in');
    // Nobody handed it in for the others.
    expect(await mailOf(school.students[0] ?? '')).not.toContain('handed in for you');
  });

  it('tells a student how they stand, and nothing of the others', async () => {
    await say(0, 1);
    const standing = async (n: number) =>
      (await students[n]?.fetch(`/pages/${page}/standing`))?.json();
    const { copy } = await standing(0);
    expect(copy.each.map(({ student }: { student: string }) => student)).toEqual([
      school.students[0],
    ]);
    expect(copy.facts.handedIn).not.toBeNull();
    const other = await standing(2);
    expect(other.copy.facts.handedIn).toBeNull();
    expect(other.copy.each).toEqual([
      { student: school.students[2], handedIn: null, counted: null, takenBack: null },
    ]);
  });

  it('comes back when one takes theirs back, and waits for that one alone', async () => {
    expect((await move(0, 'take back'))?.status).toBe(409);
    await say(0, 1, 2, 3);
    expect((await move(1, 'take back'))?.status).toBe(200);
    expect(await isWithTeacher()).toBe(false);
    expect((await move(1, 'take back'))?.status).toBe(409);
    expect((await move(0, 'hand in'))?.status).toBe(409);
    await say(1);
    expect(await isWithTeacher()).toBe(true);
    await handBack(test.app, await toMark(test.app, { page, person: school.teacher }), null);
    expect(await isWithTeacher()).toBe(false);
    await say(2);
    expect(await isWithTeacher()).toBe(false);
  });

  it.each([
    ['leaves the class', ['taken out', 'leaves']],
    ['is taken out of it', ['leaves', 'taken out']],
  ] as const)('is handed in when the last who had not said so %s', async (_, order) => {
    await say(0, 1);
    const [, , leaver = '', out = ''] = school.students;
    const grant = await inClass(test.app.db, school.class);
    const run = await grantOnAssignment(test.app.db, 'run the assignment', school.teacher, {
      assignment,
      class: school.class,
    });
    for (const how of order) {
      expect(await isWithTeacher()).toBe(false);
      await (how === 'leaves'
        ? changeStudent(test.app, grant, { does: 'leaves', student: leaver })
        : removeCopies(
            test.app,
            run,
            { copies: [], places: [{ copy: page, student: out }] },
            new Date(),
          ));
    }
    expect(await isWithTeacher()).toBe(true);
    expect((await events()).at(-1)).toBe('handed in');
    expect(await mailOf(school.teacher)).toContain('handed in');
    // Whoever comes back finds it handed in.
    await changeStudent(test.app, grant, { does: 'comes back', student: leaver });
    expect(await isWithTeacher()).toBe(true);
  });

  it('goes by the other rule when that is changed, with what was said kept', async () => {
    const change = (handIn: 'each' | 'for all') =>
      changeAs(test.app, {
        assignment,
        spec: spec(handIn),
        begin: 'original',
        by: school.teacher,
        at: new Date(),
      });
    await say(0, 1, 2);
    expect(await change('for all')).toEqual([{ kind: 'hand in', becomes: 'for all' }]);
    expect((await readCopy(test.app.db, page, '')).each).toBeNull();
    await change('each');
    expect(await isWithTeacher()).toBe(false);
    await say(3);
    expect(await isWithTeacher()).toBe(true);
    await change('for all');
    expect(await isWithTeacher()).toBe(true);
  });

  it('reminds those who have not said so', async () => {
    await say(0, 1);
    await remind(test.app, { assignment, class: school.class }, DUE.getTime() - 30 * 60_000);
    const reminded = await Promise.all(
      school.students.map(async (one) => (await mailOf(one)).includes('due soon')),
    );
    expect(reminded).toEqual([false, false, true, true]);
  });
});
