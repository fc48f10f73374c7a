import { parse } from 'csv-parse/sync';
import { readSheet } from 'read-excel-file/node';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { PLAIN_RULES, type GradeRules } from '../../src/lib/core/grades/rules';
import { grantOnAssignment } from '../../src/lib/server/access/in-the-name-of';
import { handBack, score } from '../../src/lib/server/copy/marking';
import { saveRules } from '../../src/lib/server/grades/gradebook';
import { allow } from '../../src/lib/server/handout/allowances';
import { useApp } from '../support/app';
import { inClass, toMark } from '../support/grants';
import { assign, makeSchool, type TestSchool } from '../support/school';
import { Server } from '../support/server';
import { Visitor } from '../support/visitor';

const test = useApp();
let server: Server;
let school: TestSchool;
const RULES: GradeRules = {
  ...PLAIN_RULES,
  total: 'weights',
  missing: 'zero',
  places: 2,
  categories: [
    { name: 'tasks', weight: '40', drop: 0 },
    { name: 'tests', weight: '60', drop: 0 },
  ],
};

beforeAll(async () => {
  server = await Server.start(test.url);
});
afterAll(() => server.stop());
beforeEach(async () => {
  school = await makeSchool(test.app, 3);
});
const visit = async (name: string) => {
  const visitor = new Visitor(server.origin);
  await visitor.signIn(`${name}${school.id}`);
  return visitor;
};
const give = async (copy = '', points: string) =>
  handBack(test.app, await toMark(test.app, { page: copy, person: school.teacher }), {
    given: { points },
  });
const yesterday = new Date(Date.now() - 86_400_000);
/** What somebody is sent, as one text. */
const told = async (who: Visitor, path: string) => (await who.fetch(path)).text();

describe('a gradebook', () => {
  /** The worked example (common practice, no source), from hand-outs to the table that goes out. */
  it('comes to the worked example: 65.5 % with a missing task as zero, and excused work nowhere', async () => {
    const task = (points: string, title: string) =>
      assign(test.app, school, { points, title, category: 'tasks', due: yesterday });
    const [ten, twenty, excused] = [
      await task('10', 'Ten'),
      await task('20', 'Twenty'),
      await task('20', 'Ill'),
    ];
    await task('10', 'Missed');
    const exam = await assign(test.app, school, { points: '20', title: 'Exam', category: 'tests' });
    await give(ten.copies[0], '7.5');
    await give(twenty.copies[0], '16');
    await give(exam.copies[0], '14');
    const [ada = ''] = school.students;
    const here = { assignment: excused.assignment, class: school.class };
    await allow(
      test.app,
      await grantOnAssignment(test.app.db, 'run the assignment', school.teacher, here),
      { kind: 'excused', student: ada, due: null, note: '', at: new Date() },
    );
    // Kept back: it is in nobody's sum.
    await score(
      test.app,
      await toMark(test.app, { page: exam.copies[1] ?? '', person: school.teacher }),
      {
        given: { points: '20' },
      },
    );
    await saveRules(test.app, await inClass(test.app.db, school.class), {
      rules: RULES,
      version: 0,
    });
    const teacher = await visit('teacher');
    const path = `/classes/${school.class}/gradebook/table`;
    const csv = parse(await told(teacher, `${path}?as=csv`), { bom: true });
    expect(csv[0]).toEqual([
      'Family name',
      'Given name',
      'Ten',
      'Twenty',
      'Ill',
      'Missed',
      'Exam',
      'Total, percent',
    ]);
    expect(csv[3]).toEqual(['Person', 'student1', '7.5', '16', 'excused', '0', '14', '65.50']);
    expect(csv[4]).toEqual(['Person', 'student2', '0', '0', '0', '0', '', '0.00']);
    const sheet = await readSheet(Buffer.from(await (await teacher.fetch(path)).arrayBuffer()), 1);
    expect(sheet[3]).toEqual(['Person', 'student1', 7.5, 16, 'excused', 0, 14, 65.5]);
    const dropping = {
      ...RULES,
      categories: RULES.categories.map((one) => ({ ...one, drop: one.name === 'tasks' ? 1 : 0 })),
    };
    await saveRules(test.app, await inClass(test.app.db, school.class), {
      rules: dropping,
      version: 1,
    });
    expect(parse(await told(teacher, `${path}?as=csv`), { bom: true })[3]?.at(-1)).toBe('73.33');
  });

  it('tells a student their own points, handed back, and nothing of anybody else', async () => {
    const { copies } = await assign(test.app, school, { points: '10', title: 'Mine' });
    await give(copies[0], '7.25');
    await give(copies[1], '3.75');
    await score(
      test.app,
      await toMark(test.app, { page: copies[0] ?? '', person: school.teacher }),
      {
        given: { points: '9.25' },
      },
    );
    const mine = await told(await visit('student1'), `/classes/${school.class}/points/__data.json`);
    expect(mine).toContain('7.25');
    expect(mine).not.toMatch(/9\.25|3\.75/);
    for (const other of [school.students[1] ?? '', copies[1] ?? '', 'student2'])
      expect(mine).not.toContain(other);
  });

  it('keeps the rules of who was first, and says to the other that theirs are not saved', async () => {
    const teacher = await visit('teacher');
    const path = `/classes/${school.class}/gradebook`;
    const answers = await Promise.all(
      Array.from({ length: 20 }, (_, n) =>
        teacher.send(path, { rules: { ...RULES, places: n % 3 }, version: 0 }, 'PUT'),
      ),
    );
    expect(answers.filter(({ status }) => status === 200)).toHaveLength(1);
    expect((await answers.find(({ status }) => status === 409)?.json())?.message).toMatch(
      'is still here',
    );
    const faulty = async (rules: object) => {
      const answer = await teacher.send(path, { rules: { ...RULES, ...rules }, version: 1 }, 'PUT');
      return [answer.status, (await answer.json()).message];
    };
    const named = (...names: string[]) => ({
      categories: names.map((name) => ({ name, weight: '50', drop: 0 })),
    });
    expect(await faulty(named('a', 'a'))).toEqual([400, 'Two categories have the same name.']);
    expect(await faulty({ categories: [{ name: 'a', weight: 'half', drop: 0 }] })).toEqual([
      400,
      'Weights are numbers such as 40 or 33.3.',
    ]);
    expect(
      (await (await visit('marker')).send(path, { rules: RULES, version: 1 }, 'PUT')).status,
    ).toBe(403);
  });

  it('counts an assignment as the class says, and has a table for nobody and for sixty', async () => {
    const empty = await makeSchool(test.app, 0);
    const visitor = new Visitor(server.origin);
    await visitor.signIn(`teacher${empty.id}`);
    expect(
      parse(await told(visitor, `/classes/${empty.class}/gradebook/table?as=csv`), { bom: true }),
    ).toHaveLength(3);
    school = await makeSchool(test.app, 60);
    const first = await assign(test.app, school, { points: '10', title: '=cmd()' });
    const extra = await assign(test.app, school, { points: '5', title: 'Extra' });
    await give(first.copies[59], '8');
    await give(extra.copies[59], '2');
    await saveRules(test.app, await inClass(test.app.db, school.class), {
      rules: { ...PLAIN_RULES, total: 'points' },
      version: 0,
    });
    const teacher = await visit('teacher');
    const last = async () => {
      const rows = parse(await told(teacher, `/classes/${school.class}/gradebook/table?as=csv`), {
        bom: true,
      });
      expect(rows).toHaveLength(63);
      return rows.find((row) => row[2] === '8');
    };
    // A title that a spreadsheet would run is text, and 10 of 15 is two thirds.
    expect(await told(teacher, `/classes/${school.class}/gradebook/table?as=csv`)).toContain(
      "'=cmd()",
    );
    expect((await last())?.at(-1)).toBe('66.7');
    const counting = (how: string) =>
      teacher.send(
        `/classes/${school.class}/assignments/${extra.assignment}/counting`,
        { counting: how },
        'PUT',
      );
    expect((await counting('extra')).status).toBe(200);
    expect((await last())?.at(-1)).toBe('100.0');
    expect((await counting('no')).status).toBe(200);
    expect((await last())?.at(-1)).toBe('80.0');
    expect((await counting('twice')).status).toBe(400);
  });
});
