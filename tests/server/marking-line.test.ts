import { beforeEach, describe, expect, it } from 'vitest';
import { grantInClass, grantOnAssignment } from '../../src/lib/server/access/in-the-name-of';
import { saveGrouping } from '../../src/lib/server/class/groups';
import { handBack } from '../../src/lib/server/copy/marking';
import {
  readMarkingPlace,
  saveMarkingPlace,
  whereToMark,
} from '../../src/lib/server/copy/marking-place';
import { handIn, opened } from '../../src/lib/server/copy/moves';
import { viewMarking } from '../../src/lib/server/copy/view-copy';
import { grantOnPage } from '../../src/lib/server/access/in-the-name-of';
import { useApp } from '../support/app';
import { toMark, toSee, toWork } from '../support/grants';
import { assign, makeSchool, type Assigned, type TestSchool } from '../support/school';

const test = useApp();
let school: TestSchool;
let assigned: Assigned;

const at = () => ({ assignment: assigned.assignment, class: school.class });
const goOn = async (person = school.teacher) =>
  whereToMark(test.app, await grantOnAssignment(test.app.db, 'see the assignment', person, at()));
const remember = async (page: string, person = school.teacher) =>
  saveMarkingPlace(
    test.app,
    await grantOnAssignment(test.app.db, 'mark its copies', person, at()),
    { page, order: 'name', unmarkedOnly: true, all: false },
  );
const back = async (page: string) =>
  handBack(test.app, await toMark(test.app, { page, person: school.teacher }), {
    given: { points: '5' },
  });

beforeEach(async () => {
  school = await makeSchool(test.app, 3);
  assigned = await assign(test.app, school, { points: '10' });
  // The last of them hands in first.
  for (const index of [2, 0, 1]) {
    const whose = { page: assigned.copies[index] ?? '', person: school.students[index] ?? '' };
    await opened(test.app, await toSee(test.app, whose));
    await handIn(test.app, await toWork(test.app, whose), '');
  }
});

describe('going on with marking', () => {
  it('begins with who waits longest, and goes on where each teacher was', async () => {
    const [first = '', second = '', third = ''] = assigned.copies;
    expect(await goOn()).toBe(third);
    await remember(second);
    expect(await goOn()).toBe(second);
    expect(await goOn(school.marker)).toBe(third);
    // What one was at is marked: the next by name, which is the order now, and then what was left before it.
    await back(second);
    expect(await goOn()).toBe(third);
    await back(third);
    expect(await goOn()).toBe(first);
    await back(first);
    expect(await goOn()).toBe(second);
    const whose = { person: school.teacher, assignment: assigned.assignment, klass: school.class };
    expect(await readMarkingPlace(test.app.db, whose)).toEqual({
      page: second,
      order: 'name',
      unmarkedOnly: true,
      all: false,
    });
  });

  it('remembers nothing for other pages, nor for who does not mark', async () => {
    const other = await assign(test.app, school, {});
    await expect(remember(other.copies[0] ?? '')).rejects.toThrow('There is no such copy');
    await expect(remember(assigned.copies[0] ?? '', school.stranger)).rejects.toThrow();
    await expect(remember(assigned.copies[0] ?? '', school.students[0])).rejects.toThrow();
  });

  it('knows the groups of the class, and what its student did since a copy went back', async () => {
    const [page = ''] = assigned.copies;
    const [person = ''] = school.students;
    await saveGrouping(
      test.app.db,
      await grantInClass(test.app.db, 'manage the class', school.teacher, school.class),
      { id: null, name: 'Crews', groups: [{ name: 'Crew 2', members: [person] }] },
    );
    const view = async () =>
      viewMarking(
        test.app,
        await grantOnPage(test.app, 'see the marking', school.teacher, page),
        school.class,
      );
    const { line } = await view();
    expect(line.map(({ group }) => group)).toEqual(['Crew 2', '', '']);
    await back(page);
    expect((await view()).newSince).toBeNull();
    await handIn(test.app, await toWork(test.app, { page, person }), '');
    expect((await view()).newSince).toMatchObject({ since: 'it went back', places: [] });
  });
});
