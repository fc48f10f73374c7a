import { beforeEach, describe, expect, it } from 'vitest';
import { grantOnAssignment, grantOnPage } from '../../src/lib/server/access/in-the-name-of';
import {
  readBackFromClassmates,
  readToScore,
  scoreClassmates,
  viewClassmatesCopy,
  withholdScoring,
} from '../../src/lib/server/copy/classmates';
import {
  dealToClassmates,
  dealToClassmatesAsBefore,
  viewClassmates,
} from '../../src/lib/server/copy/deal-readers';
import { handBack } from '../../src/lib/server/copy/marking';
import { handIn, opened, takeBack } from '../../src/lib/server/copy/moves';
import { viewMarking, viewOwnCopy } from '../../src/lib/server/copy/view-copy';
import { beginRubric } from '../../src/lib/server/course/rubrics';
import { useApp } from '../support/app';
import { inCourse, ofStudent, toMark, toSee, toWork } from '../support/grants';
import { assign, makeSchool, type Assigned, type TestSchool } from '../support/school';

const test = useApp();
let school: TestSchool;
let assigned: Assigned;
let rubric = '';

const at = () => ({ assignment: assigned.assignment, class: school.class });
const running = () => grantOnAssignment(test.app.db, 'run the assignment', school.teacher, at());
const marking = () => grantOnAssignment(test.app.db, 'mark its copies', school.teacher, at());
const deal = async (each: number, named = false) =>
  dealToClassmates(test.app, await running(), { each, named });
const toScore = (person: string, page: string) =>
  grantOnPage(test.app, 'score a classmate', person, page);
const give = async (person: string, page: string, points: string | null, after: string | null) =>
  scoreClassmates(test.app, await toScore(person, page), {
    given: {
      scoring: { criteria: [{ id: 'sight', points, words: 'I see it.' }], overruled: null },
      rubric: { id: rubric, version: 0 },
    },
    after,
  });
const back = async (page: string) => readBackFromClassmates(test.app.db, page);
const asStaff = async (page: string) =>
  viewMarking(
    test.app,
    await grantOnPage(test.app, 'see the marking', school.teacher, page),
    school.class,
  );
const handInAll = async (count: number, from = 0) => {
  for (let n = from; n < count; n++) {
    const [page = '', person = ''] = [assigned.copies[n], school.students[n]];
    await opened(test.app, await toSee(test.app, { page, person }));
    await handIn(test.app, await toWork(test.app, { page, person }), '');
  }
};
/** What each student is to score, in their order. */
const lists = () =>
  Promise.all(
    school.students.map(async (person) =>
      readToScore(test.app.db, await ofStudent(test.app.db, person)),
    ),
  );

beforeEach(async () => {
  school = await makeSchool(test.app, 5);
  rubric = await beginRubric(
    test.app.db,
    await inCourse(test.app.db, school.course),
    { unit: null, title: 'Method' },
    { levels: [1, 2], criteria: [{ id: 'sight', title: 'Seeing', descriptors: ['a', 'b'] }] },
  );
  assigned = await assign(test.app, school, { points: '2', rubric });
});

describe('classmates’ scoring', () => {
  it('deals what is handed in, so that all give and get the same; who comes later comes with the next deal', async () => {
    await expect(deal(2)).rejects.toThrow('two copies');
    await handInAll(4);
    await expect(deal(4)).rejects.toThrow('score 3 at most');
    await deal(2);
    const dealt = await lists();
    expect(dealt.map(({ length }) => length)).toEqual([2, 2, 2, 2, 0]);
    const pages = dealt.flat().map(({ page }) => page);
    for (const page of assigned.copies.slice(0, 4))
      expect(pages.filter((one) => one === page)).toHaveLength(2);
    for (const [n, list] of dealt.entries())
      expect(list.some(({ page }) => page === assigned.copies[n])).toBe(false);
    const view = await viewClassmates(test.app, await marking());
    expect(view.copies.map(({ reads, readers }) => [reads, readers])).toEqual(
      Array.from({ length: 4 }, () => [2, 2]),
    );
    await handInAll(5, 4);
    const before = await deal(1);
    expect((await lists()).map(({ length }) => length)).toEqual([1, 1, 1, 1, 1]);
    // Undone: as it was, to the copy.
    await dealToClassmatesAsBefore(test.app, await running(), before);
    expect(await lists()).toEqual(dealt);
  });

  it('is of a copy as it was dealt, without names, and nobody else’s to see', async () => {
    await handInAll(3);
    await deal(1);
    const [list] = await lists();
    const page = list?.[0]?.page ?? '';
    const [reader = ''] = school.students;
    const owner = school.students[assigned.copies.indexOf(page)] ?? '';
    const third = school.students.slice(0, 3).find((one) => one !== reader && one !== owner) ?? '';
    const copy = await viewClassmatesCopy(test.app.db, await toScore(reader, page));
    expect(copy?.who).toBeNull();
    expect(copy?.scoring).toMatchObject({ rubric: { title: 'Method' }, last: null });
    for (const other of [owner, third, school.students[4] ?? '', school.teacher])
      await expect(toScore(other, page)).rejects.toThrow();
    // They may score it, and nothing else.
    await expect(grantOnPage(test.app, 'read the page', reader, page)).rejects.toThrow();
    await expect(grantOnPage(test.app, 'read the comments', reader, page)).rejects.toThrow();
    await expect(grantOnPage(test.app, 'look back', reader, page)).rejects.toThrow();
    // Whose it is may go on with it meanwhile.
    await takeBack(test.app, await toWork(test.app, { page, person: owner }));
    expect(await viewClassmatesCopy(test.app.db, await toScore(reader, page))).toEqual(copy);
    // Who is dealt nothing any more sees nothing any more.
    await dealToClassmatesAsBefore(test.app, await running(), { named: false, readings: [] });
    await expect(toScore(reader, page)).rejects.toThrow();
    expect(await lists()).toEqual([[], [], [], [], []]);
  });

  it('stands beside what the teacher gives, and goes back with the copy, unless it is withheld', async () => {
    await handInAll(3);
    await deal(2);
    const [page = ''] = assigned.copies;
    const [owner = '', one = '', two = ''] = school.students;
    const { score } = await give(one, page, '1', null);
    await give(one, page, '1.5', score);
    await give(two, page, '2', null);
    const seen = await asStaff(page);
    expect(seen.classmates.map(({ scoring }) => scoring.criteria[0]?.points).sort()).toEqual([
      '1.5',
      '2',
    ]);
    expect(seen.own).toBeNull();
    expect(seen.copy.points).toBeNull();
    // Before it is handed back, its student hears nothing of it.
    const see = () => grantOnPage(test.app, 'see own copy', owner, page);
    expect((await viewOwnCopy(test.app, await see())).feedback.classmates).toEqual([]);
    const by = seen.classmates.find(({ scoring }) => scoring.criteria[0]?.points === '2')?.by ?? '';
    const mark = () => toMark(test.app, { page, person: school.teacher });
    await withholdScoring(test.app, await mark(), { by, withheld: true });
    await handBack(test.app, await mark(), null);
    const own = await viewOwnCopy(test.app, await see());
    expect(own.feedback.classmates).toMatchObject([
      { who: null, scoring: { criteria: [{ points: '1.5', words: 'I see it.' }] } },
    ]);
    expect(JSON.stringify(own)).not.toContain(by);
    await withholdScoring(test.app, await mark(), { by, withheld: false });
    expect(await back(page)).toHaveLength(2);
    // What is given after that waits for the next time.
    const last = (await viewClassmatesCopy(test.app.db, await toScore(two, page)))?.scoring.last;
    await give(two, page, '1', last?.id ?? null);
    expect((await back(page)).map(({ scoring }) => scoring.criteria[0]?.points).sort()).toEqual([
      '1.5',
      '2',
    ]);
    await expect(
      withholdScoring(test.app, await mark(), { by: page, withheld: true }),
    ).rejects.toThrow('no such scoring');
  });

  it('says names where that is wanted, and takes one of twenty at once', async () => {
    await handInAll(2);
    await deal(1, true);
    const [page = ''] = assigned.copies;
    const [, one = ''] = school.students;
    const copy = await viewClassmatesCopy(test.app.db, await toScore(one, page));
    expect(copy?.who).toMatch(/\S+ \S+/);
    const all = await Promise.allSettled(
      Array.from({ length: 20 }, () => give(one, page, '1', null)),
    );
    expect(all.filter(({ status }) => status === 'fulfilled')).toHaveLength(1);
    await expect(give(one, page, '3', null)).rejects.toThrow('level’s points');
    await handBack(test.app, await toMark(test.app, { page, person: school.teacher }), null);
    expect((await back(page)).map(({ who }) => who)).toEqual([expect.stringMatching(/\S+ \S+/)]);
    // Twenty deals at once leave one of them whole.
    await Promise.allSettled(Array.from({ length: 20 }, () => deal(1)));
    expect((await lists()).map(({ length }) => length)).toEqual([1, 1, 0, 0, 0]);
  });
});
