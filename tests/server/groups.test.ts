import { beforeAll, describe, expect, it } from 'vitest';
import {
  dropGrouping,
  saveGrouping,
  readGroupings,
  readReached,
} from '../../src/lib/server/class/groups';
import { score } from '../../src/lib/server/copy/marking';
import { useApp } from '../support/app';
import { assign, makeSchool, type TestSchool } from '../support/school';
import { inClass, toMark } from '../support/grants';

const test = useApp();
let school: TestSchool;

beforeAll(async () => {
  school = await makeSchool(test.app, 4);
});

const keep = async (name: string, groups: string[][], id: string | null = null) =>
  saveGrouping(test.app.db, await inClass(test.app.db, school.class), {
    id,
    name,
    groups: groups.map((members, n) => ({ name: `Group ${n + 1}`, members })),
  });
const kept = async (name: string) =>
  (await readGroupings(test.app.db, school.class))
    .find((grouping) => grouping.name === name)
    ?.groups.map(({ members }) => [...members].sort());

describe('groups', () => {
  it('are kept by name, changed as a whole, and given up', async () => {
    const [a = '', b = '', c = '', d = ''] = school.students;
    const id = await keep('Boats', [[a, b], [c]]);
    expect(await kept('Boats')).toEqual([[a, b].sort(), [c]]);
    await keep('Crews', [[a], [b, c, d]], id);
    expect(await kept('Boats')).toBeUndefined();
    expect(await kept('Crews')).toEqual([[a], [b, c, d].sort()]);
    await dropGrouping(test.app.db, await inClass(test.app.db, school.class), id);
    expect(await kept('Crews')).toBeUndefined();
  });

  it('hold nobody twice, nobody of another class, and no name twice', async () => {
    const [a = '', b = ''] = school.students;
    await expect(keep('Twice', [[a], [a, b]])).rejects.toMatchObject({ status: 400 });
    await expect(keep('Other', [[school.otherStudent]])).rejects.toMatchObject({ status: 409 });
    await keep('Once', [[a]]);
    await expect(keep('Once', [[b]])).rejects.toMatchObject({ status: 409 });
    await expect(keep('Gone', [[a]], crypto.randomUUID())).rejects.toMatchObject({ status: 404 });
    expect(await kept('Once')).toEqual([[a]]);
  });

  it('do not show who has left, and show her again when she is back', async () => {
    const [a = '', b = ''] = school.students;
    await keep('Changing', [[a, b]]);
    const left = (left_at: Date | null) =>
      test.app.db
        .updateTable('enrolment')
        .set({ left_at })
        .where('class_id', '=', school.class)
        .where('person_id', '=', b)
        .execute();
    await left(new Date());
    expect(await kept('Changing')).toEqual([[a]]);
    await left(null);
    expect(await kept('Changing')).toEqual([[a, b].sort()]);
  });

  /** 9 of 10 and 5 of 20 points: 0.9 and 0.25, on average 0.575. Worked by hand; the last score of a copy counts. */
  it('can be balanced by what each student reached so far', async () => {
    const [student = ''] = school.students;
    const ten = await assign(test.app, school, { points: '10' });
    const twenty = await assign(test.app, school, { points: '20' });
    const give = async (page = '', points: string) =>
      score(test.app, await toMark(test.app, { page, person: school.teacher }), {
        given: { points },
      });
    await give(ten.copies[0], '4');
    await give(ten.copies[0], '9');
    await give(twenty.copies[0], '5');
    const reached = await readReached(test.app.db, school.class, school.teacher);
    expect(Object.keys(reached)).toEqual([student]);
    expect(reached[student]).toBeCloseTo(0.575, 10);
  });
});
