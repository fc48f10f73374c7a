import fc from 'fast-check';
import { Transform, type Step } from 'prosemirror-transform';
import { beforeEach, describe, expect, it } from 'vitest';
import { authorshipIn, lastOf, momentIn } from '../../src/lib/core/history/moment';
import { schema } from '../../src/lib/core/page/schema';
import type { App } from '../../src/lib/server/app';
import { handIn } from '../../src/lib/server/copy/moves';
import { lookBack, viewHistory } from '../../src/lib/server/history/look-back';
import { nameVersion, putBack } from '../../src/lib/server/history/put-back';
import { PageLog } from '../../src/lib/server/page/page-log';
import { PageMemory } from '../../src/lib/server/page/page-memory';
import { readPage, readStretch } from '../../src/lib/server/page/page-store';
import { useApp } from '../support/app';
import { toLookBack, toPutBack, toWork } from '../support/grants';
import { assign, makeSchool, PLACES, questionPage, type TestSchool } from '../support/school';

const test = useApp();
let school: TestSchool;
let copy = '';
let student = '';

beforeEach(async () => {
  school = await makeSchool(test.app, 1);
  const { copies } = await assign(test.app, school);
  copy = copies[0] ?? '';
  student = school.students[0] ?? '';
});

const rowOf = (page: string) =>
  test.app.db.selectFrom('page').selectAll().where('id', '=', page).executeTakeFirstOrThrow();
const open = (app: Pick<App, 'pages'> = test.app) => app.pages.open(copy);

let clients = 0;
/** Each letter is a step of its own, by somebody who opened the page just now. */
async function type(text: string, by = { id: student, owner: true }) {
  const { doc, version } = await open();
  const change = new Transform(doc);
  [...text].forEach((letter, i) => change.insert(PLACES.short + i, schema.text(letter)));
  await send(version, change.steps, by);
}
const send = (base: number, steps: readonly Step[], by: { id: string; owner: boolean }) =>
  test.app.pages.append(copy, by, {
    base,
    client: `client-no-${++clients}`,
    first: 1,
    lost: [],
    steps: steps.map((step) => step.toJSON()),
  });
const putBackAs = async (person: string, version: number) =>
  putBack(test.app, await toPutBack(test.app, { page: copy, person }), version);

describe('looking back', () => {
  it('gives any moment of a long history, as a replay of all steps does', async () => {
    for (let i = 0; i < 9; i++) await type('The tide turns, and turns again, and turns. ');
    const page = await rowOf(copy);
    expect(page.version).toBe(9 * 44);
    const whole = { version: 0, doc: questionPage().toJSON() as object, authorship: [] };
    const { steps } = await test.app.db
      .transaction()
      .execute(async (tx) => {
        await tx.deleteFrom('snapshot').where('page_id', '=', copy).execute();
        const read = await readStretch(tx, page, 0);
        // What is kept for speed is there again when the test goes on.
        throw Object.assign(new Error('rolled back'), { read });
      })
      .catch((error: Error & { read: Awaited<ReturnType<typeof readStretch>> }) => error.read);
    const all = { ...whole, steps };
    await fc.assert(
      fc.asyncProperty(fc.integer({ min: 0, max: page.version }), async (version) => {
        const stretch = await readStretch(test.app.db, page, version);
        expect(stretch.steps.length).toBeLessThanOrEqual(200);
        const moment = momentIn(stretch, version);
        expect(moment.toJSON()).toEqual(momentIn(all, version).toJSON());
        const held = await readPage(test.app.db, page, version);
        expect(moment.eq(held.doc)).toBe(true);
        expect(authorshipIn(stretch, version)).toEqual(held.authorship());
      }),
      { numRuns: 25 },
    );
  });

  it('tells who worked when, and which versions are kept', async () => {
    await type('tide');
    await type('ebb', { id: school.teacher, owner: false });
    await handIn(test.app, await toWork(test.app, { page: copy, person: student }), '');
    await nameVersion(test.app, await toPutBack(test.app, { page: copy, person: school.teacher }), {
      version: 2,
      name: 'O’Hara’s <b>',
    });
    const grant = await toLookBack(test.app, { page: copy, person: school.teacher });
    const history = await viewHistory(test.app, grant);
    expect(history.line).toMatchObject([
      { author: student, first: 1, last: 4, added: 4, removed: 0 },
      { author: school.teacher, first: 5, last: 7, added: 3, removed: 0 },
    ]);
    expect(history.kept).toMatchObject([
      { version: 0, cause: 'handed out' },
      { version: 2, cause: 'named', name: 'O’Hara’s <b>', by: school.teacher },
      { version: 7, cause: 'handed in', by: student },
    ]);
    expect(Object.keys(history.names).sort()).toEqual([student, school.teacher].sort());
    await expect(lookBack(test.app, grant, 8)).rejects.toThrow('no such version');
    expect((await lookBack(test.app, grant, 7)).version).toBeLessThanOrEqual(7);
  });
});

describe('putting back', () => {
  it('is a new step: the page, and who wrote it, are as they were; then forward again', async () => {
    await type('tide');
    const early = await open();
    await type('ebb', { id: school.teacher, owner: false });
    const late = await open();
    await putBackAs(school.teacher, early.version);
    const back = await open();
    expect(back.version).toBe(late.version + 1);
    expect(back.doc.eq(early.doc)).toBe(true);
    expect(back.authorship()).toEqual(early.authorship());
    const grant = await toLookBack(test.app, { page: copy, person: student });
    // What the put back page has of whom says its own snapshot: no stretch goes over it.
    expect(lastOf(await lookBack(test.app, grant, late.version))).toBeLessThan(back.version);
    for (const moment of [late, back])
      expect(authorshipIn(await lookBack(test.app, grant, moment.version), moment.version)).toEqual(
        moment.authorship(),
      );
    await putBackAs(student, late.version);
    expect((await open()).doc.eq(late.doc)).toBe(true);
    expect((await open()).authorship()).toEqual(late.authorship());
    // Nothing before it disappeared.
    const page = await rowOf(copy);
    expect((await readPage(test.app.db, page, late.version)).doc.eq(late.doc)).toBe(true);
  });

  it('says who wrote what in every process, also one that had the page open before', async () => {
    await type('tide');
    const early = await open();
    const memory = new PageMemory();
    const elsewhere = new PageLog(test.app.db, memory, test.app.news);
    await elsewhere.open(copy);
    await type('ebb');
    await putBackAs(school.teacher, early.version);
    const there = await elsewhere.open(copy);
    expect(there.doc.eq(early.doc)).toBe(true);
    expect(there.authorship()).toEqual(early.authorship());
  });

  it('is told to the student when the staff did it, and recorded', async () => {
    await type('tide');
    await putBackAs(student, 0);
    await putBackAs(school.teacher, 4);
    const messages = await test.app.db
      .selectFrom('message')
      .select(['person_id', 'fact'])
      .where('cause', 'like', 'put back%')
      .where('school_id', '=', school.id)
      .execute();
    expect(messages).toMatchObject([{ person_id: student, fact: { kind: 'put back' } }]);
    const events = await test.app.db
      .selectFrom('event')
      .select(['version', 'of_version', 'person_id'])
      .where('page_id', '=', copy)
      .where('kind', '=', 'put back')
      .orderBy('id')
      .execute();
    expect(events).toEqual([
      { version: 5, of_version: 0, person_id: student },
      { version: 6, of_version: 4, person_id: school.teacher },
    ]);
  });

  it('is refused where nothing would change, where there is no such version, and while handed in', async () => {
    await type('tide');
    await expect(putBackAs(student, 4)).rejects.toThrow('stands like that now');
    await expect(putBackAs(student, 5)).rejects.toThrow('no such version');
    await handIn(test.app, await toWork(test.app, { page: copy, person: student }), '');
    await expect(putBackAs(student, 0)).rejects.toThrow('handed in');
    expect((await rowOf(copy)).version).toBe(4);
    await putBackAs(school.teacher, 0);
    expect((await rowOf(copy)).version).toBe(5);
  });

  it('goes in between others’ typing, ten at once, and all processes end at one page', async () => {
    await type('tide');
    const { version } = await open();
    await Promise.allSettled(
      Array.from({ length: 10 }, async (_, i) =>
        i % 3 === 0 ? putBackAs(school.teacher, i % 2 ? 0 : version) : type(`${i}`),
      ),
    );
    const page = await rowOf(copy);
    const held = await open();
    expect(held.version).toBe(page.version);
    const replayed = momentIn(await readStretch(test.app.db, page, page.version), page.version);
    expect(replayed.eq(held.doc)).toBe(true);
    const fresh = new PageLog(test.app.db, new PageMemory(), test.app.news);
    expect((await fresh.open(copy)).doc.eq(held.doc)).toBe(true);
  });
});
