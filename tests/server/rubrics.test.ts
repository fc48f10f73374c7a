import { beforeAll, describe, expect, it } from 'vitest';
import type { RubricTable } from '../../src/lib/core/marking/rubric';
import { bringBack, paste, readMovedAway } from '../../src/lib/server/course/paste';
import {
  beginRubric,
  openRubric,
  readRubricChanges,
  readRubrics,
  takeRubricBack,
  writeRubric,
} from '../../src/lib/server/course/rubrics';
import { grantInCourse } from '../../src/lib/server/access/in-the-name-of';
import { useApp } from '../support/app';
import { shareAs } from '../support/deeds';
import { inClass, inCourse } from '../support/grants';
import { makeSchool, type TestSchool } from '../support/school';

const test = useApp();
let school: TestSchool;
let theirs: string;

beforeAll(async () => {
  school = await makeSchool(test.app, 1);
  const { course_id } = await test.app.db
    .selectFrom('course_staff')
    .select('course_id')
    .where('person_id', '=', school.stranger)
    .where('may', '=', 'own')
    .executeTakeFirstOrThrow();
  theirs = course_id;
});

const TABLE: RubricTable = {
  levels: [2, 1],
  criteria: [
    { id: 'truth', title: 'Truth', descriptors: ['all', 'some'] },
    { id: 'order', title: 'Order', descriptors: ['clear', 'hard to see'] },
  ],
};
async function begin(title: string) {
  const grant = await inCourse(test.app.db, school.course);
  return { grant, id: await beginRubric(test.app.db, grant, { unit: null, title }, TABLE) };
}

describe('a rubric', () => {
  it('keeps how it stood before each change, and is made so again, which is a change, too', async () => {
    const { db } = test.app;
    const { grant, id } = await begin('Kept');
    const without = { ...TABLE, criteria: TABLE.criteria.slice(1) };
    await writeRubric(db, grant, id, { title: 'Kept', table: without, version: 0 });
    const renamed = { ...without, levels: [3, 1] };
    await writeRubric(db, grant, id, { title: 'Kept', table: renamed, version: 1 });
    const read = async () => {
      const rubric = await openRubric(db, grant, id);
      return { rubric, changes: await readRubricChanges(db, rubric) };
    };
    const { changes } = await read();
    expect(changes.map(({ version }) => version)).toEqual([1, 0]);
    expect(changes[0]?.changed).toContainEqual({ what: 'Levels', mine: '2, 1', theirs: '3, 1' });
    expect(changes[1]?.changed).toContainEqual({
      what: 'Criteria',
      mine: 'Truth, Order',
      theirs: 'Order',
    });
    await takeRubricBack(db, grant, id, { before: 0, version: 2 });
    const back = await read();
    expect(back.rubric.table).toMatchObject(TABLE);
    expect(back.rubric.version).toBe(3);
    expect(back.changes).toHaveLength(3);
    await expect(takeRubricBack(db, grant, id, { before: 0, version: 2 })).rejects.toMatchObject({
      status: 409,
    });
    await expect(takeRubricBack(db, grant, id, { before: 9, version: 3 })).rejects.toMatchObject({
      status: 404,
    });
  });

  it('is saved by one of twenty who save it at once; the others are told', async () => {
    const { db } = test.app;
    const { grant, id } = await begin('Twenty');
    const saved = await Promise.all(
      Array.from({ length: 20 }, (_, n) =>
        writeRubric(db, grant, id, { title: `Twenty ${n}`, table: TABLE, version: 0 }),
      ),
    );
    expect(saved.filter((one) => !('theirs' in one))).toEqual([{ version: 1 }]);
    expect(await readRubricChanges(db, await openRubric(db, grant, id))).toHaveLength(1);
  });

  it('is copied into another course, or moved there by who owns it, who brings it back', async () => {
    const { app } = test;
    const { id } = await begin('Travels');
    const into = await inCourse(app.db, theirs);
    const take = (who: typeof into, move: boolean) =>
      paste(app, who, { pages: [], rubrics: [id], unit: null, move });
    // Of a course that is not theirs to see.
    await expect(take(into, false)).rejects.toMatchObject({ status: 404 });
    await shareAs(app, school.teacher, school.course, school.stranger, 'write');
    await expect(take(into, true)).rejects.toMatchObject({ status: 403 });
    expect(await take(into, false)).toBe(1);
    const titles = async (course: string) =>
      (await readRubrics(app.db, course)).map(({ title }) => title);
    expect(await titles(theirs)).toEqual(['Travels']);
    expect(await titles(school.course)).toContain('Travels');

    await shareAs(app, school.stranger, theirs, school.teacher, 'write');
    expect(await take(await inCourse(app.db, theirs, school.teacher), true)).toBe(1);
    expect(await titles(theirs)).toEqual(['Travels', 'Travels']);
    expect(await titles(school.course)).not.toContain('Travels');
    expect(await readMovedAway(app.db, school.course)).toMatchObject([
      { id, title: 'Travels', to: 'Other course' },
    ]);
    const owner = await grantInCourse(app.db, 'share the course', school.teacher, school.course);
    await bringBack(app.db, owner, id);
    expect(await titles(school.course)).toContain('Travels');
    const inAClass = await inClass(app.db, school.class);
    await expect(
      paste(app, inAClass, { pages: [], rubrics: [id], unit: null, move: false }),
    ).rejects.toMatchObject({ status: 422 });
  });
});
