import { Transform } from 'prosemirror-transform';
import { beforeEach, describe, expect, it } from 'vitest';
import { sittingsOf } from '../../src/lib/core/history/sittings';
import { schema } from '../../src/lib/core/page/schema';
import { grantInClass } from '../../src/lib/server/access/in-the-name-of';
import { viewHours } from '../../src/lib/server/class/hours';
import { insertSteps } from '../../src/lib/server/page/write-changes';
import { readSteps } from '../../src/lib/server/page/page-store';
import { rebuildKept } from '../../src/lib/server/page/rebuild-kept';
import { Chance } from '../../demo/chance';
import { useApp } from '../support/app';
import { assign, makeSchool, PLACES, type TestSchool } from '../support/school';

const test = useApp();
const MINUTE = 60_000;
const NOON = Date.parse('2026-10-13T12:00Z');
let school: TestSchool;
let copies: string[] = [];

beforeEach(async () => {
  school = await makeSchool(test.app, 3);
  ({ copies } = await assign(test.app, school));
});

const sittings = (page: string) =>
  test.app.db
    .selectFrom('sitting')
    .selectAll()
    .where('page_id', '=', page)
    .orderBy('first')
    .execute();

/** Steps as an archive or the demo brings them: with times of their own. */
async function bring(page: string, made: readonly { author: string; at: number }[]) {
  const { version } = await test.app.db
    .selectFrom('page')
    .select('version')
    .where('id', '=', page)
    .executeTakeFirstOrThrow();
  const body = { stepType: 'replace', from: PLACES.short, to: PLACES.short };
  await insertSteps(
    test.app.db,
    made.map(({ author, at }, i) => ({
      page_id: page,
      version: version + i + 1,
      school_id: school.id,
      author_id: author,
      at: new Date(at),
      client: `brought by ${author}`,
      client_no: version + i + 1,
      body,
    })),
  );
  await test.app.db
    .updateTable('page')
    .set({ version: version + made.length })
    .where('id', '=', page)
    .execute();
}

describe('the sittings of a page', () => {
  it('are those of its log, however its steps came in: in pieces of any size, by several people', async () => {
    const chance = new Chance(7);
    const people: [string, ...string[]] = [school.teacher, ...school.students];
    for (const page of copies) {
      let at = NOON;
      for (let piece = 0; piece < 12; piece++) {
        const made = Array.from({ length: chance.whole(1, 9) }, () => {
          // Now and then exactly at the limit, and just beyond it.
          at += chance.one([1000, 60_000, 10 * MINUTE, 10 * MINUTE + 1, 45 * MINUTE]);
          return { author: chance.one(people), at };
        });
        await bring(page, made);
      }
      const log = await readSteps(test.app.db, page, 0, 1_000_000);
      const expected = sittingsOf(
        log.map(({ author_id, at, version }) => ({ author: author_id, at: at.getTime(), version })),
      );
      const kept = await sittings(page);
      expect(kept.length).toBeGreaterThan(10);
      expect(
        kept.map((one) => [
          one.person_id,
          one.begun_at.getTime(),
          one.ended_at.getTime(),
          one.first,
          one.last,
          one.steps,
        ]),
      ).toEqual(
        expected
          .map(({ author, from, to, steps }) => [
            author,
            from,
            to,
            steps[0]?.version,
            steps.at(-1)?.version,
            steps.length,
          ])
          .sort((a, b) => Number(a[3]) - Number(b[3])),
      );
    }
  });

  it('are kept as somebody writes, and made again from the log alone', async () => {
    const [page = ''] = copies;
    const [student = ''] = school.students;
    const { doc, version } = await test.app.pages.open(page);
    const change = new Transform(doc);
    for (const letter of 'tide') change.insert(PLACES.short, schema.text(letter));
    await test.app.pages.append(
      page,
      { id: student, owner: true },
      {
        base: version,
        client: 'client-of-hours',
        first: 1,
        lost: [],
        steps: change.steps.map((step) => step.toJSON()),
      },
    );
    const kept = await sittings(page);
    expect(kept).toMatchObject([{ person_id: student, first: 1, last: 4, steps: 4 }]);
    await rebuildKept(test.app.db);
    expect(await sittings(page)).toEqual(kept);
  });
});

describe('the hours of a class', () => {
  it('are those of its students on their copies, in lessons and in the evening', async () => {
    const [page = ''] = copies;
    const [student = ''] = school.students;
    await test.app.db
      .insertInto('lesson_slot')
      .values({
        class_id: school.class,
        school_id: school.id,
        weekday: 2,
        starts: '12:00',
        ends: '12:45',
      })
      .execute();
    const { term_id } = await test.app.db
      .selectFrom('class')
      .select('term_id')
      .where('id', '=', school.class)
      .executeTakeFirstOrThrow();
    await test.app.db
      .updateTable('term')
      .set({ starts: '2026-09-01', ends: '2026-12-18' })
      .where('id', '=', term_id)
      .execute();
    await test.app.db
      .updateTable('school')
      .set({ time_zone: 'UTC' })
      .where('id', '=', school.id)
      .execute();
    const worked = [0, 9, 18, 27].map((minute) => NOON + minute * MINUTE);
    const evening = [0, 5].map((minute) => NOON + 8 * 60 * MINUTE + minute * MINUTE);
    await bring(
      page,
      [...worked, ...evening].map((at) => ({ author: student, at })),
    );
    await bring(page, [{ author: school.teacher, at: NOON + 9 * 60 * MINUTE }]);
    const grant = await grantInClass(test.app.db, 'see the class', school.teacher, school.class);
    expect(await viewHours(test.app.db, grant)).toEqual([
      {
        copy: page,
        student,
        sittings: 2,
        time: 32 * MINUTE,
        lessons: 27 * MINUTE,
        evenings: 5 * MINUTE,
        last: NOON + 8 * 60 * MINUTE + 5 * MINUTE,
      },
    ]);
  });
});
