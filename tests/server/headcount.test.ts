import { randomUUID } from 'node:crypto';
import { Transform } from 'prosemirror-transform';
import { beforeEach, describe, expect, it } from 'vitest';
import { Chance } from '../../demo/chance';
import { plainSpec } from '../../src/lib/core/handout/spec';
import { schema } from '../../src/lib/core/page/schema';
import { grantOnAssignment } from '../../src/lib/server/access/in-the-name-of';
import { countClasses, mayLackCopies } from '../../src/lib/server/headcount/count';
import { removeCopies } from '../../src/lib/server/headcount/remove-copies';
import { giveTo } from '../../src/lib/server/handout/joiners';
import { rebuildKept } from '../../src/lib/server/page/rebuild-kept';
import { useApp } from '../support/app';
import { handOutAs } from '../support/deeds';
import { assign, makeSchool, PLACES, type TestSchool } from '../support/school';

const test = useApp();
let school: TestSchool;
beforeEach(async () => {
  school = await makeSchool(test.app, 6);
});

const toRun = (assignment: string, by = school.teacher, klass = school.class) =>
  grantOnAssignment(test.app.db, 'run the assignment', by, { assignment, class: klass });
const count = async () => countClasses(test.app.db, [school.class]);
const gapsOf = async (assignment: string) =>
  (await count()).find(({ id }) => id === assignment)?.gaps ?? [];

let clients = 0;
async function type(copy: string, by: string, change: (page: Transform) => Transform) {
  const { doc, version } = await test.app.pages.open(copy);
  await test.app.pages.append(
    copy,
    { id: by, owner: true },
    {
      base: version,
      client: `headcount-${++clients}`,
      first: 1,
      lost: [],
      steps: change(new Transform(doc)).steps.map((step) => step.toJSON()),
    },
  );
}
const LONG = Array.from({ length: 40 }, (_, i) => `word${i}`).join(' ');

describe('gaps of a class', () => {
  it('are removed copies, brought back and removed again with what is written in them', async () => {
    const { assignment, copies } = await assign(test.app, school);
    const [copy = ''] = copies;
    const [student = ''] = school.students;
    await type(copy, student, (page) => page.insert(PLACES.writing, schema.text(LONG)));
    expect(await gapsOf(assignment)).toEqual([]);
    const run = await toRun(assignment);
    await removeCopies(test.app, run, { copies: [copy], places: [] }, new Date());
    expect(await gapsOf(assignment)).toMatchObject([
      { cause: 'removed', copy, students: [student] },
    ]);
    const given = await giveTo(test.app, run, [student], new Date());
    expect(given).toEqual({ copies: [copy], places: [] });
    expect(await gapsOf(assignment)).toEqual([]);
    expect((await test.app.pages.open(copy)).doc.textContent).toContain('word39');
    await removeCopies(test.app, run, given, new Date());
    expect(await gapsOf(assignment)).toHaveLength(1);
  });

  it('are copies whose drawing was emptied, whatever is written beside it', async () => {
    const page = schema.nodes.doc.create(null, [
      schema.nodes.answer_writing.create({ id: 'w' }, schema.nodes.paragraph.create()),
      schema.nodes.answer_drawing.create({ id: 'd' }),
    ]);
    const { copies } = await assign(test.app, school, { page });
    const [copy = ''] = copies;
    const [student = ''] = school.students;
    await type(copy, student, (page) => page.insert(2, schema.text(LONG)));
    const at = LONG.length + 5;
    const strokes = Array.from({ length: 25 }, (_, i) =>
      schema.nodes.stroke.create({ id: `s${i}`, points: '1,1,50 9,9,50' }),
    );
    await type(copy, student, (page) => page.insert(at, strokes));
    await type(copy, student, (page) => page.delete(at, at + 25));
    const level = () =>
      test.app.db
        .selectFrom('page')
        .select('level')
        .where('id', '=', copy)
        .executeTakeFirstOrThrow();
    expect((await level()).level).toMatchObject({
      loss: { strokes: 25, left: 0, version: 2 },
    });
    const before = await level();
    await rebuildKept(test.app.db);
    expect(await level()).toEqual(before);
  });

  it('are mended in their own class and assignment alone', async () => {
    const { assignment, copies } = await assign(test.app, school);
    const elsewhere = await assign(test.app, school, { title: 'Another' });
    const [foreign = ''] = elsewhere.copies;
    const run = await toRun(assignment);
    await removeCopies(
      test.app,
      run,
      { copies: [foreign], places: [{ copy: foreign, student: school.students[0] ?? '' }] },
      new Date(),
    );
    await expect(giveTo(test.app, run, [school.teacher], new Date())).rejects.toThrow(
      'not in the class',
    );
    expect((await count()).flatMap(({ gaps }) => gaps)).toEqual([]);
    expect(copies).toHaveLength(6);
    const other = await makeSchool(test.app, 1);
    await expect(toRun(assignment, other.teacher)).rejects.toThrow();
  });

  it('are one copy each, though many give it at once', async () => {
    const { assignment, copies } = await assign(test.app, school);
    const run = await toRun(assignment);
    await removeCopies(test.app, run, { copies: copies.slice(0, 3), places: [] }, new Date());
    const given = await Promise.all(
      Array.from({ length: 12 }, () =>
        giveTo(test.app, run, school.students.slice(0, 3), new Date()),
      ),
    );
    expect(given.flatMap((one) => one.copies).sort()).toEqual(copies.slice(0, 3).sort());
    const rows = await test.app.db
      .selectFrom('page')
      .select('id')
      .where('assignment_id', '=', assignment)
      .execute();
    expect(rows).toHaveLength(6);
  });

  it('are all found by the desk’s quick look, in random classes with people who came and left', async () => {
    const chance = new Chance(7);
    const { db } = test.app;
    const { original } = await assign(test.app, school);
    for (const delivery of ['one each', 'one for all', 'to read'] as const)
      for (let i = 0; i < 3; i++)
        await handOutAs(test.app, {
          id: randomUUID(),
          by: school.teacher,
          at: new Date(),
          spec: plainSpec(original, school.class, {
            title: `${delivery} ${i}`,
            originals: [{ page: original, delivery }],
            without: school.students.filter(() => chance.happens(20)),
          }),
        });
    const pages = await db
      .selectFrom('page')
      .select(['id', 'student_id'])
      .where('class_id', '=', school.class)
      .where('kind', '=', 'copy')
      .execute();
    for (const { id, student_id } of pages) {
      if (chance.happens(15))
        await db.updateTable('page').set({ away_at: new Date() }).where('id', '=', id).execute();
      if (student_id === null && chance.happens(60))
        await db
          .deleteFrom('page_member')
          .where('page_id', '=', id)
          .where('person_id', '=', school.students[2] ?? '')
          .execute();
    }
    await db
      .updateTable('enrolment')
      .set({ left_at: new Date() })
      .where('person_id', '=', school.students[1] ?? '')
      .execute();
    const all = (await count()).filter(({ gaps }) => gaps.length > 0);
    expect(all.length).toBeGreaterThan(3);
    const quick = await countClasses(db, [school.class], await mayLackCopies(db, [school.class]));
    expect(quick.filter(({ gaps }) => gaps.length > 0)).toEqual(all);
  });

  it('are none of an empty class, and of one with nothing handed out', async () => {
    const empty = await makeSchool(test.app, 0);
    expect(await countClasses(test.app.db, [empty.class])).toEqual([]);
    await assign(test.app, empty);
    expect((await countClasses(test.app.db, [empty.class])).flatMap(({ gaps }) => gaps)).toEqual(
      [],
    );
    expect(await countClasses(test.app.db, [])).toEqual([]);
  });
});
