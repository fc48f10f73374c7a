import { beforeAll, describe, expect, it } from 'vitest';
import {
  setGroupingAway,
  readGroupedAssignments,
  saveGrouping,
  readGroupings,
  readReached,
} from '../../src/lib/server/class/groups';
import { score } from '../../src/lib/server/copy/marking';
import { plainSpec } from '../../src/lib/core/handout/spec';
import { readStandingCopies } from '../../src/lib/server/handout/copies';
import { readAssignmentChanges } from '../../src/lib/server/handout/undo';
import { useApp } from '../support/app';
import { changeAs, handOutAs, undoAs } from '../support/deeds';
import { assign, makeSchool, PLACES, type TestSchool } from '../support/school';
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
    const lead = await inClass(test.app.db, school.class);
    await setGroupingAway(test.app.db, lead, id, true);
    expect(await kept('Crews')).toBeUndefined();
    const others = await keep('Crews', [[a]]);
    await expect(setGroupingAway(test.app.db, lead, id, false)).rejects.toMatchObject({
      status: 409,
    });
    await keep('Other crews', [[a]], others);
    await setGroupingAway(test.app.db, lead, id, false);
    expect(await kept('Crews')).toEqual([[a], [b, c, d].sort()]);
  });

  it('that were changed do not change an assignment until it is said, and undoing gives the very groups back', async () => {
    const [a = '', b = '', c = '', d = ''] = school.students;
    const grouping = await keep('Pairs', [
      [a, b],
      [c, d],
    ]);
    const { original } = await assign(test.app, school, { title: 'For pairs' });
    const id = crypto.randomUUID();
    const spec = plainSpec(original, school.class, {
      originals: [{ page: original, delivery: 'one per group' }],
      classes: [{ class: school.class, grouping, due: null, unit: null }],
    });
    const by = school.teacher;
    await handOutAs(test.app, { id, spec, by, at: new Date() });
    const crews = async () =>
      (await readStandingCopies(test.app.db, id))
        .filter(({ standing }) => standing === 'current')
        .map(({ members }) => [...members].sort().join())
        .sort();
    const pairs = await crews();
    const standing = (await readStandingCopies(test.app.db, id)).find(({ members }) =>
      members.includes(b),
    );
    const text = [{ type: 'text', text: 'Written by two' }];
    const step = {
      stepType: 'replace',
      from: PLACES.short,
      to: PLACES.short,
      slice: { content: text },
    };
    await test.app.pages.append(
      standing?.id ?? '',
      { id: a, owner: true },
      { base: 0, client: 'a-client', first: 1, lost: [], steps: [step] },
    );
    await keep(
      'Pairs',
      [
        [a, c],
        [b, d],
      ],
      grouping,
    );
    expect(await crews()).toEqual(pairs);
    expect(await readGroupedAssignments(test.app.db, school.class)).toContainEqual({
      id,
      grouping,
      title: 'Untitled',
    });
    await changeAs(test.app, { assignment: id, spec, begin: 'original', by, at: new Date() });
    expect(await crews()).not.toEqual(pairs);
    // Who went to another group has what the old one wrote; who stayed, and who wrote nothing, has the page.
    const ownPages = () =>
      test.app.db
        .selectFrom('page')
        .select(['id', 'student_id', 'title'])
        .where('kind', '=', 'own page')
        .where('class_id', '=', school.class)
        .where('away_at', 'is', null)
        .execute();
    const own = await ownPages();
    expect(own).toMatchObject([{ student_id: b, title: expect.stringMatching(/, Group 1$/) }]);
    expect((await test.app.pages.open(own[0]?.id ?? '')).doc.textContent).toContain(
      'Written by two',
    );
    const [change] = await readAssignmentChanges(test.app.db, id);
    await undoAs(test.app, { assignment: id, change: change?.id ?? '', by, at: new Date() });
    expect(await crews()).toEqual(pairs);
    // She has the group's page again, and not what she took along of it besides; once more in the other group, she has.
    expect(await ownPages()).toEqual([]);
    await changeAs(test.app, { assignment: id, spec, begin: 'original', by, at: new Date() });
    expect(await ownPages()).toEqual(own);
    // What she wrote on is hers.
    await test.app.pages.append(
      own[0]?.id ?? '',
      { id: b, owner: true },
      { base: 0, client: 'b-client', first: 1, lost: [], steps: [step] },
    );
    const [again] = await readAssignmentChanges(test.app.db, id);
    await undoAs(test.app, { assignment: id, change: again?.id ?? '', by, at: new Date() });
    expect(await ownPages()).toEqual(own);
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
