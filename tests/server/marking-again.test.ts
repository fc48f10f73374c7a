import { beforeEach, describe, expect, it } from 'vitest';
import { grantInCourse, grantOnPage } from '../../src/lib/server/access/in-the-name-of';
import { handBack, score } from '../../src/lib/server/copy/marking';
import { handIn, opened } from '../../src/lib/server/copy/moves';
import { readOwnFeedback } from '../../src/lib/server/copy/own-work';
import { viewMarking } from '../../src/lib/server/copy/view-copy';
import { beginRubric } from '../../src/lib/server/course/rubrics';
import { useApp } from '../support/app';
import { toMark, toSee, toWork } from '../support/grants';
import { assign, makeSchool, type TestSchool } from '../support/school';

const test = useApp();
const table = {
  levels: [4, 3, 2, 1],
  criteria: ['aim', 'proof'].map((id) => ({ id, title: id, descriptors: ['', '', '', ''] })),
};
let school: TestSchool;
let student = '';
let rubric = '';

/** An assignment by the rubric, whose copy is handed in. */
async function begin(title: string): Promise<string> {
  const { copies, assignment } = await assign(test.app, school, { points: '8' });
  await test.app.db
    .updateTable('assignment')
    .set({ rubric_id: rubric, title })
    .where('id', '=', assignment)
    .execute();
  const page = copies[0] ?? '';
  await test.app.db.updateTable('page').set({ title }).where('id', '=', page).execute();
  await opened(test.app, await toSee(test.app, { page, person: student }));
  await comeIn(page);
  return page;
}
const comeIn = async (page: string) =>
  handIn(test.app, await toWork(test.app, { page, person: student }), '');
const given = (aim: string, proof: string, why = '') => ({
  scoring: {
    criteria: [
      { id: 'aim', points: aim, words: '' },
      { id: 'proof', points: proof, words: '' },
    ],
    overruled: null,
  },
  rubric: { id: rubric, version: 0 },
  why,
});
const back = async (page: string, aim: string, proof: string, why = '') =>
  handBack(test.app, await toMark(test.app, { page, person: school.teacher }), {
    given: given(aim, proof, why),
  });
const own = async (page: string) =>
  readOwnFeedback(test.app.db, await toSee(test.app, { page, person: student }));
const marking = async (page: string) =>
  viewMarking(
    test.app,
    await grantOnPage(test.app, 'see the marking', school.teacher, page),
    school.class,
  );

beforeEach(async () => {
  school = await makeSchool(test.app, 2);
  student = school.students[0] ?? '';
  const course = await grantInCourse(
    test.app.db,
    'write the course',
    school.teacher,
    school.course,
  );
  rubric = await beginRubric(test.app.db, course, { unit: null, title: 'Report' }, table);
});

describe('a copy that is marked again', () => {
  it('shows what it came back with before, to those who mark at once, to its student when it is back', async () => {
    const page = await begin('Tides');
    expect((await marking(page)).before).toBeNull();
    await back(page, '2', '3');
    expect((await own(page)).lastTime).toBeNull();
    expect((await marking(page)).before).toBeNull();
    await comeIn(page);
    expect((await marking(page)).before).toMatchObject({ title: null, points: '5' });
    await score(test.app, await toMark(test.app, { page, person: school.teacher }), {
      given: given('4', '3', 'The aim is one sentence now.'),
    });
    // Not back yet: the student compares nothing, and hears of no reason.
    expect(JSON.stringify(await own(page))).not.toContain('one sentence');
    expect((await own(page)).lastTime).toBeNull();
    await handBack(test.app, await toMark(test.app, { page, person: school.marker }), null);
    const { given: now, lastTime } = await own(page);
    expect(now?.why).toBe('The aim is one sentence now.');
    expect(lastTime?.scoring?.criteria.map(({ points }) => points)).toEqual(['2', '3']);
    expect((await marking(page)).before).toMatchObject({ points: '5' });
  });

  it('is else compared with what came back last by the same rubric, of the same student', async () => {
    const first = await begin('Tides');
    await back(first, '2', '2');
    const second = await begin('Currents');
    await back(second, '3', '2');
    const third = await begin('Winds');
    await back(third, '4', '4');
    expect((await own(third)).lastTime).toMatchObject({
      title: 'Currents',
      points: '5',
      most: '8.00',
    });
    expect((await own(first)).lastTime).toBeNull();
  });
});
