import { beforeEach, describe, expect, it } from 'vitest';
import { grantOnAssignment } from '../../src/lib/server/access/in-the-name-of';
import { viewHandBackSheets } from '../../src/lib/server/copy/hand-back-sheets';
import { handBack, score } from '../../src/lib/server/copy/marking';
import { handIn, opened } from '../../src/lib/server/copy/moves';
import { beginThread, readOpenMargin } from '../../src/lib/server/copy/threads';
import { useApp } from '../support/app';
import { toComment, toMark, toSee, toWork } from '../support/grants';
import { assign, makeSchool, PLACES, type Assigned, type TestSchool } from '../support/school';

const test = useApp();
let school: TestSchool;
let assigned: Assigned;

const sheets = async (person = school.teacher) =>
  viewHandBackSheets(
    test.app,
    await grantOnAssignment(test.app.db, 'mark its copies', person, {
      assignment: assigned.assignment,
      class: school.class,
    }),
  );
const say = async (page: string, text: string, more: object) =>
  beginThread(test.app, await toComment(test.app, { page, person: school.teacher }), {
    text,
    anchor: { from: 1, to: PLACES.guarded, version: 0 },
    ...more,
  });

beforeEach(async () => {
  school = await makeSchool(test.app, 3);
  assigned = await assign(test.app, school, { points: '10' });
  for (const index of [1, 0]) {
    const whose = { page: assigned.copies[index] ?? '', person: school.students[index] ?? '' };
    await opened(test.app, await toSee(test.app, whose));
    await handIn(test.app, await toWork(test.app, whose), '');
  }
});

describe('what is looked at before copies go back', () => {
  it('is what their students see then: kept back words, and nothing that is for the staff alone', async () => {
    const [page = ''] = assigned.copies;
    const [person = ''] = school.students;
    await say(page, 'Goes with the copy.', { keptBack: true });
    await say(page, 'Among us.', { staffOnly: true });
    const mark = await toMark(test.app, { page, person: school.teacher });
    await score(test.app, mark, { given: { points: '7' } });
    // Those that are handed in, in the order of their students.
    const before = await sheets();
    expect(before.map(({ names }) => names)).toEqual([['student1 Person'], ['student2 Person']]);
    const [sheet] = before;
    const words = (threads: readonly { comments: readonly { text: string }[] }[] = []) =>
      threads.flatMap(({ comments }) => comments.map(({ text }) => text));
    expect(words(sheet?.threads)).toEqual(['Goes with the copy.']);
    expect(sheet?.copy.points).toBe('7.00');
    await handBack(test.app, mark, null);
    const own = await readOpenMargin(test.app, await toWork(test.app, { page, person }));
    expect(words(own.threads)).toEqual(words((await sheets())[0]?.threads));
  });

  it('is for who marks', async () => {
    expect(await sheets(school.marker)).toHaveLength(2);
    await expect(sheets(school.stranger)).rejects.toThrow();
    await expect(sheets(school.students[0])).rejects.toThrow();
  });
});
