import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { plainSpec } from '../../src/lib/core/handout/spec';
import { emptyRubric } from '../../src/lib/core/marking/rubric';
import { beginRubric } from '../../src/lib/server/course/rubrics';
import { useApp } from '../support/app';
import { setStaffAs, shareAs } from '../support/deeds';
import { addPerson, assign, makeSchool, PASSWORD, type TestSchool } from '../support/school';
import { readAssignmentChanges } from '../../src/lib/server/handout/undo';
import { changeAs, undoAs } from '../support/deeds';
import { HeldTable } from '../support/held-table';
import { Server } from '../support/server';
import { Visitor } from '../support/visitor';
import { inCourse } from '../support/grants';

const test = useApp();
let school: TestSchool;
let server: Server;
const [one, two] = [new Visitor(''), new Visitor('')];

beforeAll(async () => {
  school = await makeSchool(test.app, 2);
  const co = await addPerson(test.app, school, 'co', 'teacher');
  await setStaffAs(test.app, school.teacher, school.class, co, 'co-teacher');
  await shareAs(test.app, school.teacher, school.course, co, 'write');
  server = await Server.start(test.url);
  await one.moveTo(server.origin).signIn(`teacher${school.id}`, PASSWORD);
  await two.moveTo(server.origin).signIn(`co${school.id}`, PASSWORD);
});
afterAll(() => server.stop());

describe('two teachers on one thing', () => {
  it('do not overwrite a rubric: the second is told what the first saved, and decides', async () => {
    const rubric = await beginRubric(test.app.db, await inCourse(test.app.db, school.course), {
      unit: null,
      title: 'R',
    });
    const path = `/courses/${school.course}/rubrics/${rubric}`;
    const save = (who: Visitor, title: string, version: number) =>
      who.send(path, { title, table: emptyRubric('a'), version }, 'PUT');
    expect(await (await save(one, 'Mine', 0)).json()).toEqual({ version: 1 });
    const told = await save(two, 'Theirs', 0);
    expect(told.status).toBe(409);
    expect(await told.json()).toMatchObject({
      theirs: { title: 'Mine', version: 1, by: 'teacher' },
    });
    expect((await save(two, 'Theirs', 1)).status).toBe(200);
    // In the same second, one of them is told.
    const both = await Promise.all([save(one, 'A', 2), save(two, 'B', 2)]);
    expect(both.map(({ status }) => status).sort()).toEqual([200, 409]);
  });

  it('do not overwrite a draft of a hand-out', async () => {
    const { original } = await assign(test.app, school);
    const path = `/classes/${school.class}/hand-out/${crypto.randomUUID()}`;
    const save = (who: Visitor, title: string, version: number) =>
      who.send(
        path,
        { spec: plainSpec(original, school.class, { title }), goesOut: null, version },
        'PUT',
      );
    expect(await (await save(one, 'Mine', 0)).json()).toMatchObject({ version: 1 });
    const told = await save(two, 'Theirs', 0);
    expect(told.status).toBe(409);
    expect(await told.json()).toMatchObject({ theirs: { spec: { title: 'Mine' }, version: 1 } });
    const both = await Promise.all([save(one, 'A', 1), save(two, 'B', 1)]);
    expect(both.map(({ status }) => status).sort()).toEqual([200, 409]);
  });

  it('do not undo each other’s change of an assignment unseen', async () => {
    const { original, assignment } = await assign(test.app, school);
    const path = `/classes/${school.class}/assignments/${assignment}/change`;
    const change = (who: Visitor, title: string, seen: string | null) =>
      who.send(path, {
        spec: plainSpec(original, school.class, { title, points: '10' }),
        begin: 'original',
        seen,
        preview: false,
      });
    expect((await change(one, 'First', null)).status).toBe(200);
    const told = await change(two, 'Second', null);
    expect(told.status).toBe(409);
    expect((await told.json()).message).toContain('It will be called “First”.');
    const newest = await test.app.db
      .selectFrom('assignment_change')
      .select('id')
      .where('assignment_id', '=', assignment)
      .executeTakeFirstOrThrow();
    expect((await change(two, 'Second', newest.id)).status).toBe(200);
  });

  it('do not undo what came between: undoing touches its own change alone', async () => {
    const { original, assignment } = await assign(test.app, school);
    const by = { by: school.teacher, begin: 'original', assignment } as const;
    const change = (title: string) =>
      changeAs(test.app, {
        ...by,
        at: new Date(),
        spec: plainSpec(original, school.class, { title, points: '10' }),
      });
    await change('First');
    const [first] = await readAssignmentChanges(test.app.db, assignment);
    // The second change is made and not committed yet when the first is undone.
    const jobs = await HeldTable.hold(test.url, 'pgboss.job');
    const changed = change('Second');
    await jobs.someoneWaits();
    const undone = undoAs(test.app, { ...by, change: first?.id ?? '', at: new Date() });
    await Promise.all([
      expect(undone).rejects.toMatchObject({ status: 409 }),
      jobs.othersWait(2).then(() => jobs.letGo()),
    ]);
    await changed;
    const { title } = await test.app.db
      .selectFrom('assignment')
      .select('title')
      .where('id', '=', assignment)
      .executeTakeFirstOrThrow();
    expect(title).toBe('Second');
  });

  it('are each told of the score that they gave themselves, and not of the other’s', async () => {
    const { copies } = await assign(test.app, school);
    const give = async (who: Visitor, points: number) => {
      const given = { points: String(points) };
      const answer = await who.send(`/pages/${copies[0]}/marking`, { move: 'score', given });
      const { score }: { score: string } = await answer.json();
      return { points, score };
    };
    const told = await Promise.all(
      Array.from({ length: 12 }, (_, n) => give(n % 2 === 0 ? one : two, n)),
    );
    for (const { points, score } of told)
      expect(
        await test.app.db
          .selectFrom('score')
          .select('points')
          .where('id', '=', score)
          .executeTakeFirst(),
      ).toEqual({ points: `${points}.00` });
  });

  it('enter one term, one lesson and one welcome page, not two', async () => {
    const office = new Visitor(server.origin);
    await office.signIn(`office${school.id}`, PASSWORD);
    const term = { kind: 'term', id: '', name: 'Spring', starts: '2027-01-04', ends: '2027-03-26' };
    const slot = { weekday: '3', starts: '09:00', ends: '09:50' };
    const welcome = { title: 'Welcome', unit: '', area: 'welcome' };
    const twice = async (send: () => Promise<Response>) =>
      (await Promise.all([send(), send()].map(async (sent) => (await sent).json())))
        .map(({ type }) => type)
        .sort();
    expect(await twice(() => office.submit('/school/calendar?/write', term))).toEqual([
      'failure',
      'success',
    ]);
    expect(await twice(() => one.submit(`/classes/${school.class}/set-up?/slot`, slot))).toEqual([
      'failure',
      'success',
    ]);
    expect(await twice(() => one.submit(`/classes/${school.class}/plan?/begin`, welcome))).toEqual([
      'failure',
      'redirect',
    ]);
  });
});
