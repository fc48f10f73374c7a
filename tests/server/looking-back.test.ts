import fc from 'fast-check';
import { Node } from 'prosemirror-model';
import { Transform, type Step } from 'prosemirror-transform';
import { beforeEach, describe, expect, it } from 'vitest';
import { authorshipIn, lastOf, momentIn } from '../../src/lib/core/history/moment';
import { schema } from '../../src/lib/core/page/schema';
import type { App } from '../../src/lib/server/app';
import { lookInside } from '../../src/lib/server/copy/look-inside';
import { handIn, looked } from '../../src/lib/server/copy/moves';
import { lookBack, viewHistory } from '../../src/lib/server/history/look-back';
import { nameVersion, putBack } from '../../src/lib/server/history/put-back';
import { PageLog } from '../../src/lib/server/page/page-log';
import { PageMemory } from '../../src/lib/server/page/page-memory';
import { readPage, readStretch } from '../../src/lib/server/page/page-store';
import { useApp } from '../support/app';
import { toLook, toLookBack, toMark, toPutBack, toWork } from '../support/grants';
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
  putBack(test.app, await toPutBack(test.app, { page: copy, person }), { version });

describe('looking back', () => {
  it('gives any moment of a long history, as a replay of all steps does', async () => {
    for (let i = 0; i < 9; i++) await type('The tide turns, and turns again, and turns. ');
    const page = await rowOf(copy);
    expect(page.version).toBe(9 * 44);
    const whole = {
      version: 0,
      doc: questionPage().toJSON() as object,
      made: null,
      authorship: [],
    };
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
        // Each version knows when it was made, also the one that a stretch begins with.
        expect(stretch.made !== null).toBe(stretch.version > 0);
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

describe('what is new to one of the staff', () => {
  const inside = async (since: number | null = null) =>
    lookInside(test.app, await toLook(test.app, { page: copy, person: school.teacher }), since);
  const look = async (version = Infinity) =>
    looked(test.app, await toMark(test.app, { page: copy, person: school.teacher }), null, version);
  const texts = ({ doc, newSince }: Awaited<ReturnType<typeof inside>>) => {
    const page = Node.fromJSON(schema, doc);
    return newSince?.places.map(({ from, to }) => page.textBetween(from, to)) ?? null;
  };

  it('is what others wrote since they looked; nothing is said to who never looked', async () => {
    await type('tide');
    const first = await inside();
    expect(texts(first)).toBeNull();
    expect(first.lastPlace).toBe(PLACES.short + 4);
    await look();
    expect(texts(await inside())).toEqual([]);
    await type('ebb');
    const { newSince, ...again } = await inside();
    expect(texts({ ...again, newSince })).toEqual(['ebb']);
    await look();
    expect(texts(await inside())).toEqual([]);
    // A peek that stays open goes on from what was known when it was opened.
    await type('low');
    expect(texts(await inside(newSince?.version))?.join('')).toHaveLength(6);
    expect(texts(await inside(-1))).toBeNull();
  });

  it('is also what was written while they looked at what was there before', async () => {
    await type('tide');
    const { version } = await inside();
    await type('ebb');
    // What they saw is told after what they did not see.
    await look(version);
    expect(texts(await inside())).toEqual(['ebb']);
    await look((await inside()).version);
    expect(texts(await inside())).toEqual([]);
  });

  it('is not what they wrote themselves, nor is where they wrote the place of a student', async () => {
    await type('tide');
    await look();
    await type('seen', { id: school.teacher, owner: false });
    const own = await inside();
    expect(texts(own)).toEqual([]);
    expect(own.lastPlace).toBeNull();
  });
});

describe('what a history tells besides', () => {
  it('is what was pasted: when, and how much', async () => {
    await type('tide');
    const { doc, version } = await open();
    const steps = [
      new Transform(doc).insert(PLACES.short, schema.text('A long passage. ')).steps[0],
    ];
    await test.app.pages.append(
      copy,
      { id: student, owner: true },
      {
        base: version,
        client: 'client-pastes',
        first: 1,
        lost: [],
        steps: steps.map((step) => ({ stepType: '', ...step?.toJSON(), pasted: true })),
      },
    );
    await type('ebb');
    const grant = await toLookBack(test.app, { page: copy, person: school.teacher });
    const { line } = await viewHistory(test.app, grant);
    expect(line).toMatchObject([{ added: 4 + 16 + 3, pasted: [{ version: 5, characters: 16 }] }]);
    // The page itself is any other page.
    expect((await readPage(test.app.db, await rowOf(copy), 5)).doc.textContent).toContain(
      'passage',
    );
  });

  it('is the version before the due time, once that is over; by each one’s own', async () => {
    await type('tide');
    const before = Date.now();
    await type('ebb');
    const dueAt = (due: Date) =>
      test.app.db.updateTable('assignment_class').set({ due_at: due }).execute();
    const kept = async () => {
      const grant = await toLookBack(test.app, { page: copy, person: school.teacher });
      return (await viewHistory(test.app, grant)).kept.filter(({ cause }) => cause === 'due');
    };
    await dueAt(new Date(Date.now() + 60_000));
    expect(await kept()).toEqual([]);
    await dueAt(new Date(before));
    expect(await kept()).toMatchObject([{ version: 4, at: before, by: null }]);
    await dueAt(new Date(before - 3_600_000));
    expect(await kept()).toMatchObject([{ version: 0 }]);
  });

  it('is the other copies to compare with, for staff alone', async () => {
    const more = await makeSchool(test.app, 3);
    const { copies } = await assign(test.app, more);
    const [page = ''] = copies;
    const view = async (person: string) =>
      viewHistory(test.app, await toLookBack(test.app, { page, person }));
    expect((await view(more.teacher)).others.map((one) => one.page).sort()).toEqual(
      copies.slice(1).sort(),
    );
    expect((await view(more.students[0] ?? '')).others).toEqual([]);
  });
});

describe('putting a passage back', () => {
  it('takes it from then and leaves the rest as it is; who had written it, has written it again', async () => {
    await type('tide');
    const then = await open();
    const { doc, version } = then;
    await send(version, new Transform(doc).delete(PLACES.short, PLACES.short + 4).steps, {
      id: school.teacher,
      owner: false,
    });
    const { doc: empty, version: next } = await open();
    await send(next, new Transform(empty).insert(PLACES.number, schema.text('7')).steps, {
      id: student,
      owner: true,
    });
    const grant = await toPutBack(test.app, { page: copy, person: school.teacher });
    const passage = { from: PLACES.short, to: PLACES.short + 4 };
    const { version: became } = await putBack(test.app, grant, { version: then.version, passage });
    const back = await open();
    expect(back.version).toBe(became);
    expect(back.doc.textBetween(PLACES.short, PLACES.short + 4)).toBe('tide');
    expect(back.doc.textContent).toContain('7');
    expect(back.authorship().map(({ author }) => author)).toEqual([student, student]);
    // A process that did not do it reads the same.
    const other = new PageLog(test.app.db, new PageMemory(), test.app.news);
    expect((await other.open(copy)).authorship()).toEqual(back.authorship());
    const mail = await test.app.db
      .selectFrom('message')
      .select('fact')
      .where('person_id', '=', student)
      .execute();
    expect(mail.map(({ fact }) => fact)).toContainEqual(
      expect.objectContaining({ kind: 'put back', what: 'passage' }),
    );
    await expect(putBack(test.app, grant, { version: then.version, passage })).rejects.toThrow(
      'stands like that now',
    );
  });

  it('never changes a guarded page’s own text', async () => {
    await type('tide');
    const then = await open();
    // The teacher corrects the text of the page, and the answer is lost.
    const asks = new Transform(then.doc).insert(1, schema.text('Well: '));
    await send(then.version, asks.delete(PLACES.short + 6, PLACES.short + 10).steps, {
      id: school.teacher,
      owner: false,
    });
    const grant = await toPutBack(test.app, { page: copy, person: student });
    const passage = { from: 0, to: then.doc.content.size };
    await putBack(test.app, grant, { version: then.version, passage });
    const back = await open();
    expect(back.doc.textContent).toContain('Well: ');
    expect(back.doc.textContent).toContain('tide');
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
