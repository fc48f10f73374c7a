import { beforeEach, describe, expect, it } from 'vitest';
import { grantOnAssignment } from '../../src/lib/server/access/in-the-name-of';
import {
  keepExample,
  putExampleAway,
  readExamples,
  viewExample,
} from '../../src/lib/server/copy/examples';
import { opened } from '../../src/lib/server/copy/moves';
import { beginRubric } from '../../src/lib/server/course/rubrics';
import { useApp } from '../support/app';
import { inCourse, toSee } from '../support/grants';
import { assign, makeSchool, PLACES, type Assigned, type TestSchool } from '../support/school';

const test = useApp();
let school: TestSchool;
let assigned: Assigned;
let rubric = '';
let copy = '';

const marking = (person = school.teacher, assignment = assigned.assignment) =>
  grantOnAssignment(test.app.db, 'mark its copies', person, { assignment, class: school.class });
const keep = async (points: string, criterion = 'sight', page = copy) =>
  keepExample(test.app, await marking(), { copy: page, criterion, points });
const list = async () => readExamples(test.app.db, await marking());
const shown = async (id: string, person = school.teacher) =>
  JSON.stringify((await viewExample(test.app, await marking(person), id)).doc);

async function write(words: string) {
  const { version } = await test.app.pages.open(copy);
  await test.app.pages.append(
    copy,
    { id: school.students[0] ?? '', owner: true },
    {
      base: version,
      client: 'a-client',
      first: version + 1,
      lost: [],
      steps: [
        {
          stepType: 'replace',
          from: PLACES.short,
          to: PLACES.short,
          slice: { content: [{ type: 'text', text: words }] },
        },
      ],
    },
  );
}

beforeEach(async () => {
  school = await makeSchool(test.app, 2);
  rubric = await beginRubric(
    test.app.db,
    await inCourse(test.app.db, school.course),
    { unit: null, title: 'Method' },
    {
      levels: [1, 2, 4],
      criteria: [
        { id: 'sight', title: 'Seeing', descriptors: ['a', 'b', 'c'] },
        { id: 'words', title: 'Saying', descriptors: ['a', 'b', 'c'] },
      ],
    },
  );
  assigned = await assign(test.app, school, { points: '8', rubric });
  copy = assigned.copies[0] ?? '';
  const [student = ''] = school.students;
  await test.app.db
    .updateTable('person')
    .set({ given: 'Odile', family: 'Quennell' })
    .where('id', '=', student)
    .execute();
  await opened(test.app, await toSee(test.app, { page: copy, person: student }));
  await write('QUENNELL, odile: three flashes. ');
});

describe('an example of a level', () => {
  it('shows a copy as it stood, without its student’s name, also when they have left', async () => {
    const { id } = await keep('2');
    await write('Later words. ');
    await test.app.db.updateTable('enrolment').set({ left_at: new Date() }).execute();
    const doc = await shown(id, school.marker);
    expect(doc).toContain('three flashes');
    expect(doc).not.toMatch(/odile|quennell|later words/i);
    expect(doc).toContain('…, …: three flashes. ');
  });

  it('is of the rubric: whoever scores another assignment by it sees it, and nobody else', async () => {
    const { id } = await keep('1.5');
    const other = await assign(test.app, school, { points: '8', rubric });
    const there = await marking(school.marker, other.assignment);
    expect(await readExamples(test.app.db, there)).toEqual([
      { id, criterion: 'sight', points: '1.5' },
    ]);
    expect((await viewExample(test.app, there, id)).points).toBe('1.5');
    const plain = await assign(test.app, school, {});
    const without = await marking(school.teacher, plain.assignment);
    await expect(viewExample(test.app, without, id)).rejects.toThrow('not scored by a rubric');
    const [student = ''] = school.students;
    for (const person of [student, school.stranger, school.office])
      await expect(marking(person)).rejects.toThrow();
  });

  it('is of a step of the rubric, and a copy of this class', async () => {
    await expect(keep('3.5')).rejects.toThrow('rubric was changed');
    await expect(keep('2', 'other')).rejects.toThrow('rubric was changed');
    const other = await assign(test.app, school, { points: '8', rubric });
    await expect(keep('2', 'sight', other.copies[0])).rejects.toThrow('no such copy');
    expect(await list()).toEqual([]);
  });

  it('is one of each criterion, though many keep it at once; it is taken away and kept again', async () => {
    const all = await Promise.all(Array.from({ length: 20 }, (_, at) => keep(at % 2 ? '2' : '4')));
    expect(new Set(all.map(({ id }) => id)).size).toBe(1);
    await keep('1', 'words');
    expect((await list()).map(({ criterion }) => criterion).sort()).toEqual(['sight', 'words']);
    const id = all[0]?.id ?? '';
    await putExampleAway(test.app, await marking(), id, true);
    await expect(shown(id)).rejects.toThrow('no such example any more');
    expect(await list()).toHaveLength(1);
    await putExampleAway(test.app, await marking(), id, false);
    expect(await list()).toHaveLength(2);
    await test.app.db
      .updateTable('page')
      .set({ away_at: new Date() })
      .where('id', '=', copy)
      .execute();
    expect(await list()).toEqual([]);
    await expect(shown(id)).rejects.toThrow('no such example any more');
  });
});
