import { beforeEach, describe, expect, it } from 'vitest';
import { grantOnAssignment, grantOnPage } from '../../src/lib/server/access/in-the-name-of';
import { askOwnScoring, scoreOwn, viewOwnScoring } from '../../src/lib/server/copy/own-scoring';
import { handIn, opened, takeBack } from '../../src/lib/server/copy/moves';
import { viewMarking } from '../../src/lib/server/copy/view-copy';
import { beginRubric } from '../../src/lib/server/course/rubrics';
import { useApp } from '../support/app';
import { inCourse, toSee, toWork } from '../support/grants';
import { assign, makeSchool, type Assigned, type TestSchool } from '../support/school';

const test = useApp();
let school: TestSchool;
let assigned: Assigned;
let rubric = '';
let page = '';
let student = '';

const running = () =>
  grantOnAssignment(test.app.db, 'run the assignment', school.teacher, {
    assignment: assigned.assignment,
    class: school.class,
  });
const give = async (points: string | null, after: string | null, version = 0) =>
  scoreOwn(test.app, await toWork(test.app, { page, person: student }), {
    given: {
      scoring: { criteria: [{ id: 'sight', points, words: 'I saw it.' }], overruled: null },
      rubric: { id: rubric, version },
    },
    after,
  });
const seen = async () =>
  viewOwnScoring(test.app.db, await grantOnPage(test.app, 'see own copy', student, page));
const marking = async () =>
  viewMarking(
    test.app,
    await grantOnPage(test.app, 'see the marking', school.teacher, page),
    school.class,
  );

beforeEach(async () => {
  school = await makeSchool(test.app, 2);
  rubric = await beginRubric(
    test.app.db,
    await inCourse(test.app.db, school.course),
    { unit: null, title: 'Method' },
    { levels: [1, 2], criteria: [{ id: 'sight', title: 'Seeing', descriptors: ['a', 'b'] }] },
  );
  assigned = await assign(test.app, school, { points: '2', rubric });
  page = assigned.copies[0] ?? '';
  student = school.students[0] ?? '';
  await opened(test.app, await toSee(test.app, { page, person: student }));
});

describe('a student’s own scoring', () => {
  it('is asked by who leads the class, and not asked any more', async () => {
    expect(await seen()).toBeNull();
    await expect(give('1', null)).rejects.toThrow('not asked to score');
    await askOwnScoring(test.app, await running(), true);
    expect((await seen())?.rubric.title).toBe('Method');
    await askOwnScoring(test.app, await running(), false);
    expect(await seen()).toBeNull();
    assigned = await assign(test.app, school, {});
    await expect(askOwnScoring(test.app, await running(), true)).rejects.toThrow('by a rubric');
  });

  it('is the last that they gave, kept with the rubric as it was, and seen by who marks; it is no score', async () => {
    await askOwnScoring(test.app, await running(), true);
    const { score } = await give('1', null);
    await give('1.5', score);
    const view = await marking();
    expect(view.own?.criteria).toEqual([{ id: 'sight', points: '1.5', words: 'I saw it.' }]);
    expect(view.own?.rubric.title).toBe('Method');
    expect(view.copy.points).toBeNull();
    expect(view.given).toBeNull();
    const other = await grantOnPage(
      test.app,
      'see own copy',
      school.students[1] ?? '',
      assigned.copies[1] ?? '',
    );
    expect((await viewOwnScoring(test.app.db, other))?.last).toBeNull();
  });

  it('is given while the copy is theirs, by a step of the rubric as it is now, and once of twenty', async () => {
    await askOwnScoring(test.app, await running(), true);
    await expect(give('3', null)).rejects.toThrow('level’s points');
    await expect(give('1', null, 7)).rejects.toThrow('changed just now');
    const all = await Promise.allSettled(Array.from({ length: 20 }, () => give('1', null)));
    expect(all.filter(({ status }) => status === 'fulfilled')).toHaveLength(1);
    await expect(give('2', null)).rejects.toThrow('scored it meanwhile');
    const work = () => toWork(test.app, { page, person: student });
    await handIn(test.app, await work(), '');
    const last = (await seen())?.last?.id ?? null;
    await expect(give('2', last)).rejects.toThrow('handed in');
    await takeBack(test.app, await work());
    await give('2', last);
    expect((await seen())?.last?.scoring.criteria[0]?.points).toBe('2');
    // Another student’s copy is nobody’s to score.
    const [, two = ''] = school.students;
    await expect(toWork(test.app, { page, person: two })).rejects.toThrow();
  });
});
