import { ReplaceStep } from 'prosemirror-transform';
import { Fragment, Slice } from 'prosemirror-model';
import { describe, expect, it } from 'vitest';
import { stateOf } from '../../src/lib/core/copy/state';
import { schema } from '../../src/lib/core/page/schema';
import { readCopies, readCopy } from '../../src/lib/server/copy/facts';
import { handBack, score } from '../../src/lib/server/copy/marking';
import { handIn, looked, opened, takeBack } from '../../src/lib/server/copy/moves';
import { readRecord } from '../../src/lib/server/copy/open-copy';
import { readOwnStanding } from '../../src/lib/server/copy/own-work';
import { addComment, beginThread, readMargin } from '../../src/lib/server/copy/threads';
import { plainSpec } from '../../src/lib/core/handout/spec';
import { useApp } from '../support/app';
import { assign, makeSchool, PLACES } from '../support/school';
import { handOutAs } from '../support/deeds';
import { toWork, toSee, toMark, toComment } from '../support/grants';

const test = useApp();
const insert = (at: number, text: string) =>
  new ReplaceStep(at, at, new Slice(Fragment.from(schema.text(text)), 0, 0));

async function setUp(size = 1) {
  const school = await makeSchool(test.app, size);
  const assigned = await assign(test.app, school);
  const page = assigned.copies[0] ?? '';
  const student = { page, person: school.students[0] ?? '' };
  const teacher = { page, person: school.teacher };
  const write = async (base: number, no: number, at: number, text: string) =>
    test.app.pages.append(
      page,
      { id: student.person, owner: true },
      { base, client: 'the-client', first: no, lost: [], steps: [insert(at, text).toJSON()] },
    );
  const state = async () => stateOf((await readCopy(test.app.db, page, school.teacher)).facts);
  return { school, assigned, page, student, teacher, write, state };
}

describe('handing out one each', () => {
  it('makes one copy for each student now in the class, in one transaction', async () => {
    const { school, assigned } = await setUp(5);
    expect(new Set(assigned.copies).size).toBe(5);
    const copies = await readCopies(test.app.db, { class: school.class }, school.teacher);
    expect(copies).toHaveLength(5);
    expect(copies.map((copy) => [stateOf(copy.facts), copy.mask])).toEqual(
      Array(5).fill(['unopened', '0000']),
    );
  });

  it('leaves out who has left, and takes any title', async () => {
    const school = await makeSchool(test.app, 3);
    await test.app.db
      .updateTable('enrolment')
      .set({ left_at: new Date() })
      .where('person_id', '=', school.students[1] ?? '')
      .execute();
    const title = 'Tides: “how?” <b>/\\ \u202e 潮';
    const { assignment, copies } = await assign(test.app, school, { title });
    expect(copies[1]).toBe('');
    const kept = await test.app.db
      .selectFrom('assignment')
      .select('title')
      .where('id', '=', assignment)
      .executeTakeFirstOrThrow();
    expect(kept.title).toBe(title);
  });

  it('makes one assignment when two press at once', async () => {
    const { school, assigned } = await setUp(3);
    const spec = {
      id: crypto.randomUUID(),
      by: school.teacher,
      at: new Date(),
      spec: plainSpec(assigned.original, school.class, { title: 'Once' }),
    };
    const results = await Promise.allSettled([
      handOutAs(test.app, spec),
      handOutAs(test.app, spec),
      handOutAs(test.app, spec),
    ]);
    expect(results.map(({ status }) => status).sort()).toEqual([
      'fulfilled',
      'rejected',
      'rejected',
    ]);
    const copies = await test.app.db
      .selectFrom('page')
      .select('id')
      .where('assignment_id', '=', spec.id)
      .execute();
    expect(copies).toHaveLength(3);
  });

  it('keeps the version it was handed out in when the original changes later', async () => {
    const { school, assigned, page } = await setUp();
    const teacher = { id: school.teacher, owner: false };
    await test.app.pages.append(assigned.original, teacher, {
      base: 0,
      client: 'original',
      first: 1,
      lost: [],
      steps: [insert(1, 'NEW ').toJSON()],
    });
    expect((await test.app.pages.open(page)).doc.textContent).not.toContain('NEW');
    expect((await test.app.pages.open(assigned.original)).doc.textContent).toContain('NEW');
  });
});

describe('the life of a copy', () => {
  it('goes from unopened to handed back, revised, and handed back again, with both grades in the record', async () => {
    const { page, student, teacher, write, state } = await setUp();
    await opened(test.app, await toSee(test.app, student));
    await opened(test.app, await toSee(test.app, student));
    expect(await state()).toBe('opened');
    await write(0, 1, PLACES.short, 'sand');
    expect(await state()).toBe('working');
    await handIn(test.app, await toWork(test.app, student), 'done');
    expect(await state()).toBe('handed in');
    await takeBack(test.app, await toWork(test.app, student));
    await write(1, 2, PLACES.short, 'fine ');
    await handIn(test.app, await toWork(test.app, student), '');
    const { facts } = await readCopy(test.app.db, page, teacher.person);
    await looked(test.app, await toMark(test.app, teacher), facts.handedIn, Infinity);
    await expect(takeBack(test.app, await toWork(test.app, student))).rejects.toThrow(
      'looking at this copy',
    );
    await score(test.app, await toMark(test.app, teacher), { given: { points: '6' } });
    expect(await state()).toBe('marked');
    const back = async () =>
      (await readOwnStanding(test.app.db, await toWork(test.app, student))).points;
    expect(await back()).toBeNull();
    await handBack(test.app, await toMark(test.app, teacher), { given: { points: '6.5' } });
    expect(await state()).toBe('handed back');
    expect(await back()).toBe('6.50');
    await write(2, 3, PLACES.short, 'very ');
    expect(await state()).toBe('revising');
    await handIn(test.app, await toWork(test.app, student), '');
    await score(test.app, await toMark(test.app, teacher), { given: { points: '9' } });
    expect(await back()).toBe('6.50');
    await handBack(test.app, await toMark(test.app, teacher), { given: { points: '9' } });
    expect(await back()).toBe('9.00');
    const record = await readRecord(test.app, page);
    expect(record.filter(({ what }) => what === 'scored').map(({ points }) => points)).toEqual([
      '6.00',
      '6.50',
      '9.00',
      '9.00',
    ]);
    expect(record.filter(({ what }) => what === 'opened')).toHaveLength(1);
    expect(record.find(({ what }) => what === 'handed in')?.note).toBe('done');
  });

  it('refuses moves that do not follow', async () => {
    const { student, teacher } = await setUp();
    await expect(takeBack(test.app, await toWork(test.app, student))).rejects.toThrow(
      'nothing handed in',
    );
    await expect(handBack(test.app, await toMark(test.app, teacher), null)).rejects.toThrow(
      'not been opened',
    );
    await handIn(test.app, await toWork(test.app, student), '');
    await expect(handIn(test.app, await toWork(test.app, student), '')).rejects.toThrow(
      'handed in already',
    );
  });

  it('counts a look for who looked', async () => {
    const { school, page, student, teacher, write } = await setUp();
    await write(0, 1, PLACES.short, 'sand');
    await looked(test.app, await toMark(test.app, teacher), null, Infinity);
    const looks = async (viewer: string) =>
      (await readCopy(test.app.db, page, viewer)).facts.looked;
    expect(await looks(school.teacher)).not.toBeNull();
    expect(await looks(school.marker)).toBeNull();
    expect(await looks(student.person)).toBeNull();
  });

  it('does not take a look that began before handing in for a look at what was handed in', async () => {
    const { student, teacher, write } = await setUp();
    await write(0, 1, PLACES.short, 'sand');
    await handIn(test.app, await toWork(test.app, student), '');
    await expect(looked(test.app, await toMark(test.app, teacher), null, Infinity)).rejects.toThrow(
      'handed in just now',
    );
    await takeBack(test.app, await toWork(test.app, student));
  });
});

describe('threads', () => {
  const words = async (page: string, viewer: string) => {
    const { doc } = await test.app.pages.open(page);
    const { threads } = await readMargin(test.app, page, { id: viewer, isStudent: false });
    return threads.map(({ anchor }) => anchor && doc.textBetween(anchor.from, anchor.to));
  };

  it('stay on their words while the text moves, also when tied to an earlier version', async () => {
    const { school, page, write } = await setUp();
    await write(0, 1, PLACES.writing, 'low water and high water');
    const at = PLACES.writing;
    await beginThread(test.app, await toComment(test.app, { page, person: school.teacher }), {
      text: 'Which?',
      anchor: { from: at + 14, to: at + 24, version: 1 },
    });
    await write(1, 2, at, 'First ');
    expect(await words(page, school.teacher)).toEqual(['high water']);
    await beginThread(test.app, await toComment(test.app, { page, person: school.teacher }), {
      text: 'Late',
      anchor: { from: at, to: at + 9, version: 1 },
    });
    expect(await words(page, school.teacher)).toEqual(['low water', 'high water']);
    const { threads } = await readMargin(test.app, page, { id: school.teacher, isStudent: false });
    expect(threads.map(({ quote }) => quote)).toEqual(['low water', 'high water']);
  });

  it('carry a conversation, are settled and opened again, and leave nothing out of the record', async () => {
    const { school, page, student } = await setUp();
    await beginThread(test.app, await toComment(test.app, { page, person: school.teacher }), {
      text: 'Why?',
      anchor: null,
    });
    const read = async () =>
      (await readMargin(test.app, page, { id: student.person, isStudent: true })).threads[0];
    const thread = (await read())?.id ?? '';
    const say = async (
      whose: { page: string; person: string },
      kind: 'said' | 'settled' | 'opened again',
      text = '',
    ) => addComment(test.app, await toComment(test.app, whose), thread, { kind, text });
    await say({ page, person: student.person }, 'said', 'Because.');
    await say({ page, person: student.person }, 'settled', '');
    expect(await read()).toMatchObject({ settled: true });
    await say({ page, person: school.teacher }, 'opened again', '');
    const now = await read();
    expect(now?.settled).toBe(false);
    expect(now?.comments.map(({ kind, own }) => [kind, own])).toEqual([
      ['said', false],
      ['said', true],
      ['settled', true],
      ['opened again', false],
    ]);
    const other = await setUp();
    await expect(
      say({ page: other.page, person: other.school.teacher }, 'said', 'x'),
    ).rejects.toThrow('does not exist');
  });
});
