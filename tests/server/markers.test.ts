import { beforeEach, describe, expect, it } from 'vitest';
import { settledScore } from '../../src/lib/core/marking/settle';
import { grantOnAssignment, grantOnPage } from '../../src/lib/server/access/in-the-name-of';
import { dealAsBefore, dealOut } from '../../src/lib/server/copy/deal-out';
import { readCopy } from '../../src/lib/server/copy/facts';
import { viewHandBackSheets } from '../../src/lib/server/copy/hand-back-sheets';
import { handBack, score, scoreApart, settle } from '../../src/lib/server/copy/marking';
import { whereToMark } from '../../src/lib/server/copy/marking-place';
import { handIn, opened } from '../../src/lib/server/copy/moves';
import { beginThread } from '../../src/lib/server/copy/threads';
import { viewMarking } from '../../src/lib/server/copy/view-copy';
import { viewMarkers } from '../../src/lib/server/copy/view-markers';
import { find } from '../../src/lib/server/find/find';
import { useApp } from '../support/app';
import { toComment, toMark, toSee, toWork } from '../support/grants';
import { assign, makeSchool, type Assigned, type TestSchool } from '../support/school';

const test = useApp();
let school: TestSchool;
let assigned: Assigned;

const at = () => ({ assignment: assigned.assignment, class: school.class });
const running = (person = school.teacher) =>
  grantOnAssignment(test.app.db, 'run the assignment', person, at());
const marking = (person: string) => grantOnAssignment(test.app.db, 'mark its copies', person, at());
const view = async (page: string, person: string) =>
  viewMarking(test.app, await grantOnPage(test.app, 'see the marking', person, page), school.class);
const overview = async (person = school.teacher) => viewMarkers(test.app, await marking(person));
const both = () => [school.teacher, school.marker];
const deal = async (twice: number, markers = both()) =>
  dealOut(test.app, await running(), { by: 'evenly', twice, markers });
const give = async (page: string, person: string, points: string, after?: string | null) =>
  scoreApart(test.app, await toMark(test.app, { page, person }), { given: { points }, after });
const settleAs = async (page: string, points: string, of: readonly string[]) =>
  settle(test.app, await toMark(test.app, { page, person: school.teacher }), {
    given: { points },
    of,
  });
/** What somebody finds of the words that the marker wrote. */
const foundBy = async (id: string) => {
  await test.app.indexer.catchUp();
  const person = {
    id,
    role: 'teacher' as const,
    school_id: school.id,
    given: '',
    family: '',
    called: '',
  };
  return (await find(test.app.db, person, 'hardly anything')).map(({ kind }) => kind);
};
const pointsOf = async (page: string) => (await readCopy(test.app.db, page, school.teacher)).points;

beforeEach(async () => {
  school = await makeSchool(test.app, 4);
  assigned = await assign(test.app, school, { points: '10' });
  for (const [index, page] of assigned.copies.entries()) {
    const whose = { page, person: school.students[index] ?? '' };
    await opened(test.app, await toSee(test.app, whose));
    await handIn(test.app, await toWork(test.app, whose), '');
  }
});

describe('copies that are dealt', () => {
  it('are gone through by who marks them; the lead sees how far each is, and can undo it', async () => {
    expect((await overview()).copies.every(({ markers }) => markers.length === 0)).toBe(true);
    const before = await deal(0);
    const dealt = await overview(school.marker);
    expect(dealt.staff.map((one) => [one.id, one.dealt, one.waits])).toEqual(
      expect.arrayContaining([
        [school.teacher, 2, 2],
        [school.marker, 2, 2],
      ]),
    );
    const own = dealt.copies.find(({ markers }) => markers[0]?.id === school.marker)?.id ?? '';
    const seen = await grantOnAssignment(test.app.db, 'see the assignment', school.marker, at());
    const first = (await whereToMark(test.app, seen)) ?? '';
    expect(dealt.copies.find(({ id }) => id === first)?.markers[0]?.id).toBe(school.marker);
    // One of them is scored as ever.
    await score(test.app, await toMark(test.app, { page: own, person: school.marker }), {
      given: { points: '7' },
    });
    const one = (await overview()).staff.find(({ id }) => id === school.marker);
    expect(one).toMatchObject({ dealt: 2, done: 1, waits: 1 });
    await dealAsBefore(test.app, await running(), before);
    expect((await overview()).copies.every(({ markers }) => markers.length === 0)).toBe(true);
    expect(await pointsOf(own)).toBe('7.00');
  });

  it('are dealt by who leads the class alone, to its staff alone', async () => {
    await expect(running(school.marker)).rejects.toThrow('You can see this');
    await expect(deal(0, [school.stranger])).rejects.toThrow('not on the staff');
    await expect(deal(0, [])).rejects.toThrow('Choose who marks.');
    await expect(deal(1, [school.teacher])).rejects.toThrow('two people');
    const other = await assign(test.app, school, {});
    await dealAsBefore(test.app, await running(), {
      copies: [{ copy: other.copies[0] ?? '', markers: [school.marker] }],
    });
    expect(await test.app.db.selectFrom('marker').selectAll().execute()).not.toContainEqual(
      expect.objectContaining({ page_id: other.copies[0] }),
    );
  });

  it('are dealt whole though several deal at once', async () => {
    await Promise.all(Array.from({ length: 8 }, (_, index) => deal(index % 5)));
    const { copies } = await overview();
    expect(copies.every(({ markers }) => markers.length === 1 || markers.length === 2)).toBe(true);
  });
});

describe('a copy that two mark apart', () => {
  let page = '';
  beforeEach(async () => {
    page = assigned.copies[0] ?? '';
    await deal(4);
  });

  it('shows neither what the other gives or says, until both have scored it', async () => {
    await beginThread(test.app, await toComment(test.app, { page, person: school.marker }), {
      text: 'Between us: hardly anything here.',
      anchor: null,
      staffOnly: true,
    });
    await give(page, school.marker, '3');
    const unseen = await view(page, school.teacher);
    expect(unseen.apart).toEqual({ by: ['marker', 'teacher'], isOne: true, bothThere: false });
    expect(unseen.last).toEqual({ score: null, points: null });
    expect(unseen.given).toBeNull();
    expect(unseen.margin.threads).toEqual([]);
    expect(JSON.stringify(unseen)).not.toMatch(/hardly anything|3\.00/);
    expect(await foundBy(school.teacher)).toEqual([]);
    expect(await foundBy(school.marker)).toEqual(['comment']);
    const overviewNow = await overview();
    expect(overviewNow.toSettle).toEqual([]);
    expect(JSON.stringify(overviewNow)).not.toContain('3.00');
    expect((await view(page, school.marker)).last.points).toBe('3.00');
    await give(page, school.teacher, '6');
    const now = await view(page, school.teacher);
    expect(now.apart?.bothThere).toBe(true);
    expect(now.margin.threads).toHaveLength(1);
    expect(await foundBy(school.teacher)).toEqual(['comment']);
    expect((await overview()).toSettle.map(({ copy }) => copy)).toEqual([page]);
  });

  it('counts what is settled, and nothing before', async () => {
    await give(page, school.marker, '3');
    await give(page, school.teacher, '6');
    expect(await pointsOf(page)).toBeNull();
    const [one] = (await overview()).toSettle;
    const given = one && settledScore(one.scores, { whole: '4.5' }, '10');
    expect(given).toEqual({ points: '4.5' });
    const of = one?.scores.map(({ id }) => id) ?? [];
    await expect(settleAs(page, '4.5', ['1', '2'])).rejects.toThrow('look again');
    await settleAs(page, '4.5', of);
    expect(await pointsOf(page)).toBe('4.50');
    await expect(settleAs(page, '5', of)).rejects.toThrow('settled this copy just now');
    const { toSettle, agreement, waiting } = await overview();
    expect([toSettle, waiting]).toEqual([[], 3]);
    expect(agreement).toMatchObject([
      { by: ['marker', 'teacher'], lines: [{ label: 'Points', agreement: { of: 1, equal: 0 } }] },
    ]);
    // From here on it is a copy as any other.
    await handBack(test.app, await toMark(test.app, { page, person: school.marker }), null);
  });

  it('is neither scored nor handed back otherwise, be it by its lead', async () => {
    const grant = await toMark(test.app, { page, person: school.teacher });
    const says = 'mark this copy without seeing what the other gives';
    await expect(score(test.app, grant, { given: { points: '9' } })).rejects.toThrow(says);
    await expect(handBack(test.app, grant, null)).rejects.toThrow(says);
    await expect(handBack(test.app, grant, { given: { points: '9' } })).rejects.toThrow(says);
    expect(await viewHandBackSheets(test.app, await marking(school.teacher))).toEqual([]);
    expect(await pointsOf(page)).toBeNull();
  });

  it('keeps its scorings once both are there, and one’s own from being overwritten unseen', async () => {
    await give(page, school.marker, '3', null);
    await expect(give(page, school.marker, '4', null)).rejects.toThrow('elsewhere just now');
    await give(page, school.teacher, '6');
    await expect(give(page, school.marker, '6')).rejects.toThrow('You have both scored this copy');
    await deal(0, [school.marker]);
    await expect(give(page, school.teacher, '6')).rejects.toThrow('not yours to mark apart');
  });

  it('takes both scorings of the same second, and one settling of twenty', async () => {
    await Promise.all([give(page, school.marker, '3'), give(page, school.teacher, '6')]);
    const of = (await overview()).toSettle[0]?.scores.map(({ id }) => id) ?? [];
    const done = await Promise.allSettled(
      Array.from({ length: 20 }, (_, index) => settleAs(page, `${index}`, of)),
    );
    expect(done.filter(({ status }) => status === 'fulfilled')).toHaveLength(1);
    expect(
      await test.app.db.selectFrom('score').selectAll().where('page_id', '=', page).execute(),
    ).toHaveLength(1);
  });

  it('that comes again is marked apart again', async () => {
    await give(page, school.marker, '3');
    await give(page, school.teacher, '6');
    const of = (await overview()).toSettle[0]?.scores.map(({ id }) => id) ?? [];
    await settleAs(page, '5', of);
    await handBack(test.app, await toMark(test.app, { page, person: school.teacher }), null);
    const whose = { page, person: school.students[0] ?? '' };
    await handIn(test.app, await toWork(test.app, whose), '');
    const again = await view(page, school.teacher);
    expect(again.apart).toMatchObject({ bothThere: false });
    expect(again.last.score).toBeNull();
  });
});
