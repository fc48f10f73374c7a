import { describe, expect, it } from 'vitest';
import { grantOnAssignment } from '../../src/lib/server/access/in-the-name-of';
import { viewGlance } from '../../src/lib/server/class/at-a-glance';
import { handBack, score } from '../../src/lib/server/copy/marking';
import { handIn, opened } from '../../src/lib/server/copy/moves';
import { useApp } from '../support/app';
import { setKeyAs } from '../support/deeds';
import { toMark, toSee, toWork } from '../support/grants';
import { assign, makeSchool } from '../support/school';

const test = useApp();

describe('a class at a glance', () => {
  it('says nothing of a class without points, and counts the last score of each copy', async () => {
    const school = await makeSchool(test.app, 3);
    const { assignment, copies } = await assign(test.app, school, { points: '10' });
    const view = async () =>
      viewGlance(
        test.app.db,
        await grantOnAssignment(test.app.db, 'see the assignment', school.marker, {
          assignment,
          class: school.class,
        }),
      );
    expect(await view()).toMatchObject({ most: '10.00', copies: [], criteria: [], parts: [] });
    for (const [index, page] of copies.entries()) {
      const whose = { page, person: school.students[index] ?? '' };
      await opened(test.app, await toSee(test.app, whose));
      await handIn(test.app, await toWork(test.app, whose), '');
    }
    const [first = '', second = ''] = copies;
    const mark = (page: string) => toMark(test.app, { page, person: school.teacher });
    await score(test.app, await mark(first), { given: { points: '4' } });
    await handBack(test.app, await mark(first), { given: { points: '6' } });
    await score(test.app, await mark(second), { given: { points: '9' } });
    expect((await view()).copies.map(({ points }) => points)).toEqual(['6.00', '9.00']);
  });

  it('has the points of each part, also of those that a person scored', async () => {
    const school = await makeSchool(test.app, 2);
    const { assignment, copies, original } = await assign(test.app, school, { points: '10' });
    const key = { kind: 'by hand', points: '2' } as const;
    await setKeyAs(test.app, { school: school.id, page: original, part: 'short' }, key);
    for (const [index, page] of copies.entries()) {
      const whose = { page, person: school.students[index] ?? '' };
      await opened(test.app, await toSee(test.app, whose));
      await handIn(test.app, await toWork(test.app, whose), '');
      await score(test.app, await toMark(test.app, { page, person: school.teacher }), {
        given: { parts: { short: { points: index === 0 ? '1.5' : '2', reason: '' } } },
      });
    }
    const { parts } = await viewGlance(
      test.app.db,
      await grantOnAssignment(test.app.db, 'see the assignment', school.teacher, {
        assignment,
        class: school.class,
      }),
    );
    expect(parts).toMatchObject([
      {
        id: 'short',
        levels: [
          { points: '0', copies: [] },
          { points: '1.5', copies: [copies[0]] },
          { points: '2', copies: [copies[1]] },
        ],
        figures: { facility: 0.875, of: 2 },
      },
    ]);
  });
});
