import { describe, expect, it } from 'vitest';
import { AttrStep, ReplaceStep, Transform, type Step } from 'prosemirror-transform';
import { Slice, Fragment } from 'prosemirror-model';
import type { StepsMessage } from '../../src/lib/core/page/protocol';
import { schema } from '../../src/lib/core/page/schema';
import { handIn } from '../../src/lib/server/copy/moves';
import { rebuildKept } from '../../src/lib/server/page/rebuild-kept';
import { readPage } from '../../src/lib/server/page/page-store';
import { readSetAside, settleSetAside } from '../../src/lib/server/page/set-aside';
import { PageMemory } from '../../src/lib/server/page/page-memory';
import { PageLog } from '../../src/lib/server/page/page-log';
import { useApp } from '../support/app';
import { assign, makeSchool, PLACES, questionPage } from '../support/school';
import { toRead, toWork } from '../support/grants';

const test = useApp();

/** Where the page's second block begins. */
const SECOND = questionPage().child(0).nodeSize;

const insert = (at: number, text: string) =>
  new ReplaceStep(at, at, new Slice(Fragment.from(schema.text(text)), 0, 0));
const message = (
  base: number,
  first: number,
  steps: Step[],
  client = 'client-one',
): StepsMessage => ({
  base,
  first,
  client,
  lost: [],
  steps: steps.map((step) => step.toJSON()),
});

async function setUp(guarded = true) {
  const school = await makeSchool(test.app, 2);
  const { copies } = await assign(test.app, school, { guarded });
  const copy = copies[0] ?? '';
  const student = school.students[0] ?? '';
  return {
    school,
    copy,
    owner: { id: student, owner: true },
    teacher: { id: school.teacher, owner: false },
  };
}
const rowOf = (copy: string) =>
  test.app.db.selectFrom('page').selectAll().where('id', '=', copy).executeTakeFirstOrThrow();

describe('appending steps', () => {
  it('keeps each with author, client and number, and moves the copy on', async () => {
    const { copy, owner } = await setUp();
    const news = await test.app.pages.append(
      copy,
      owner,
      message(0, 1, [insert(PLACES.short, 'sa'), insert(PLACES.short + 2, 'nd')]),
    );
    expect(news).toMatchObject({ base: 0, version: 2, setAside: [] });
    const steps = await test.app.db
      .selectFrom('step')
      .selectAll()
      .where('page_id', '=', copy)
      .orderBy('version')
      .execute();
    expect(
      steps.map((step) => [step.version, step.author_id, step.client, step.client_no]),
    ).toEqual([
      [1, owner.id, 'client-one', 1],
      [2, owner.id, 'client-one', 2],
    ]);
    expect(await rowOf(copy)).toMatchObject({ version: 2, done_mask: '1000' });
  });

  it('takes a repeated request once', async () => {
    const { copy, owner } = await setUp();
    const once = message(0, 1, [insert(PLACES.short, 'sand')]);
    await test.app.pages.append(copy, owner, once);
    const again = await test.app.pages.append(copy, owner, once);
    expect(again.version).toBe(1);
    expect(again.steps.map(({ client, no }) => [client, no])).toEqual([['client-one', 1]]);
    // A process that knows nothing of this client learns it from the log.
    const elsewhere = new PageLog(test.app.db, new PageMemory(), test.app.news);
    const more = message(0, 1, [insert(PLACES.short, 'sand'), insert(PLACES.short + 4, '!')]);
    expect((await elsewhere.append(copy, owner, more)).version).toBe(2);
    expect((await test.app.pages.open(copy)).doc.textContent).toContain('sand!');
  });

  it('gives a client to the person who used it first', async () => {
    const { copy, owner, teacher } = await setUp();
    await test.app.pages.append(copy, owner, message(0, 1, [insert(PLACES.short, 'mine')]));
    // Somebody else under the same client's name would make its next words look like repeats.
    const taken = message(1, 2, [insert(PLACES.short, 'x'), insert(PLACES.short, 'y')]);
    await expect(test.app.pages.append(copy, teacher, taken)).rejects.toMatchObject({
      status: 409,
    });
    const elsewhere = new PageLog(test.app.db, new PageMemory(), test.app.news);
    await expect(elsewhere.append(copy, teacher, taken)).rejects.toMatchObject({ status: 409 });
    await test.app.pages.append(copy, owner, message(1, 2, [insert(PLACES.short, 'and ')]));
    expect((await test.app.pages.open(copy)).doc.textContent).toContain('and mine');
  });

  it.each([
    ['a zero character', { type: 'text', text: 'a\0b' }],
    ['half a character', { type: 'text', text: 'a\ud800b' }],
  ])('refuses %s, and takes in what came together with it', async (_what, text) => {
    const { copy, owner, teacher } = await setUp(false);
    const bad = { stepType: 'replace', from: 1, to: 1, slice: { content: [text] } };
    const sent = [
      ...Array.from({ length: 9 }, (_, i) =>
        test.app.pages.append(
          copy,
          i % 2 ? owner : teacher,
          message(0, 1, [insert(PLACES.writing, `${i}.`)], `client-${i}-x`),
        ),
      ),
      test.app.pages.append(copy, teacher, {
        base: 0,
        client: 'client-bad',
        first: 1,
        lost: [],
        steps: [bad],
      }),
    ];
    const answers = await Promise.allSettled(sent);
    expect(answers.map(({ status }) => status)).toEqual([
      ...Array(9).fill('fulfilled'),
      'rejected',
    ]);
    expect(answers[9]).toMatchObject({ reason: { status: 422 } });
    expect((await test.app.pages.open(copy)).version).toBe(9);
  });

  it('refuses what would lie too deep inside each other, however slowly it came', async () => {
    const { copy, teacher } = await setUp(false);
    const deeper = (base: number) => ({
      stepType: 'replaceAround',
      from: 0,
      gapFrom: 0,
      insert: 4,
      structure: false,
      slice: {
        content: [
          {
            type: 'bullet_list',
            content: [{ type: 'list_item', content: [{ type: 'paragraph' }] }],
          },
        ],
      },
      to: SECOND + base * 6,
      gapTo: SECOND + base * 6,
    });
    let status = 0;
    let version = 0;
    for (; status === 0 && version < 100; version++)
      await test.app.pages
        .append(copy, teacher, {
          base: version,
          client: 'client-deep',
          first: version + 1,
          lost: [],
          steps: [deeper(version)],
        })
        .catch((refusal) => (status = refusal.status));
    expect([status, version > 10, version < 40]).toEqual([422, true, true]);
  });

  it('takes in many requests at once, in one page and in several', async () => {
    const { copy, owner, teacher } = await setUp();
    const clients = Array.from({ length: 20 }, (_, i) => `client-number-${i}`);
    await Promise.all(
      clients.map((client, i) =>
        test.app.pages.append(
          copy,
          i % 2 ? owner : teacher,
          message(0, 1, [insert(PLACES.writing, `${i}.`)], client),
        ),
      ),
    );
    const { doc, version } = await test.app.pages.open(copy);
    expect(version).toBe(20);
    for (const i of clients.keys()) expect(doc.textContent).toContain(`${i}.`);
  });

  it.each([
    ['another place of the page', insert(PLACES.guarded, 'x')],
    ['the words of an option', insert(38, 'not ')],
    ['the whole page', new ReplaceStep(0, 5, Slice.empty)],
  ])('refuses a made-up request that changes guarded text: %s', async (_, step) => {
    const { copy, owner, teacher } = await setUp();
    const before = (await test.app.pages.open(copy)).doc;
    await expect(test.app.pages.append(copy, owner, message(0, 1, [step]))).rejects.toMatchObject({
      status: expect.toSatisfy((status) => status === 403 || status === 422),
    });
    expect((await test.app.pages.open(copy)).doc.eq(before)).toBe(true);
    if (step.to === step.from)
      expect((await test.app.pages.append(copy, teacher, message(0, 1, [step]))).version).toBe(1);
  });

  it('lets a student change everything where the text is not guarded', async () => {
    const { copy, owner } = await setUp(false);
    await test.app.pages.append(copy, owner, message(0, 1, [insert(PLACES.guarded, 'x')]));
    expect((await test.app.pages.open(copy)).doc.textContent).toContain('x');
  });

  it('refuses what no page can hold, and nothing of that request is kept', async () => {
    const { copy, teacher } = await setUp();
    const transform = new Transform(questionPage());
    const bad = [
      insert(PLACES.short, 'fine'),
      new AttrStep(transform.doc.child(0).nodeSize, 'id', 'has spaces in it'),
    ];
    await expect(test.app.pages.append(copy, teacher, message(0, 1, bad))).rejects.toMatchObject({
      status: 422,
    });
    const content = [
      {
        type: 'text',
        text: 'here',
        marks: [{ type: 'link', attrs: { href: 'javascript:alert(1)' } }],
      },
    ];
    const place = { from: PLACES.writing, to: PLACES.writing };
    const active = {
      ...message(0, 1, []),
      steps: [{ stepType: 'replace', ...place, slice: { content } }],
    };
    await expect(test.app.pages.append(copy, teacher, active)).rejects.toMatchObject({
      status: 422,
    });
    const nonsense = { ...message(0, 1, []), steps: [{ stepType: 'replace', from: 'x' }] };
    await expect(test.app.pages.append(copy, teacher, nonsense)).rejects.toMatchObject({
      status: 422,
    });
    const huge = insert(PLACES.writing, 'w'.repeat(400_001));
    await expect(test.app.pages.append(copy, teacher, message(0, 1, [huge]))).rejects.toMatchObject(
      { status: 413 },
    );
    await expect(
      test.app.pages.append(copy, teacher, message(7, 1, [insert(1, 'x')])),
    ).rejects.toMatchObject({ status: 409 });
    expect((await rowOf(copy)).version).toBe(0);
  });

  it('refuses a student while the teacher has the copy', async () => {
    const { copy, owner } = await setUp();
    await handIn(test.app, await toWork(test.app, { page: copy, person: owner.id }), '');
    await expect(
      test.app.pages.append(copy, owner, message(0, 1, [insert(PLACES.short, 'x')])),
    ).rejects.toMatchObject({ status: 423 });
  });

  it('sets words aside whose place was taken away, for their author to find', async () => {
    const { copy, owner, teacher } = await setUp();
    await test.app.pages.append(
      copy,
      owner,
      message(0, 1, [insert(PLACES.writing, 'one two three')]),
    );
    const gone = new ReplaceStep(PLACES.writing, PLACES.writing + 13, Slice.empty);
    await test.app.pages.append(copy, teacher, message(1, 1, [gone], 'client-two'));
    const late = await test.app.pages.append(
      copy,
      owner,
      message(1, 2, [insert(PLACES.writing + 4, 'and a half ')]),
    );
    expect(late.setAside).toMatchObject([{ no: 2, words: 'and a half ' }]);
    const kept = await readSetAside(test.app.db, copy, owner.id);
    expect(kept.map(({ words }) => words)).toEqual(['and a half ']);
    expect(await readSetAside(test.app.db, copy, teacher.id)).toEqual([]);
    await settleSetAside(test.app.db, await toRead(test.app, { page: copy, person: owner.id }), {
      client: 'client-one',
      numbers: [2],
    });
    expect(await readSetAside(test.app.db, copy, owner.id)).toEqual([]);
  });

  it('takes a snapshot every 200 steps and when a pause ended a sitting, from which any version is read', async () => {
    const { copy, owner } = await setUp();
    let now = Date.parse('2026-11-02T10:00:00Z');
    const pages = new PageLog(test.app.db, new PageMemory(), test.app.news, () => now);
    for (let i = 0; i < 5; i++) {
      const steps = Array.from({ length: 50 }, (_, k) =>
        insert(PLACES.writing + i * 50 + k, String(i)),
      );
      await pages.append(copy, owner, message(i * 50, i * 50 + 1, steps));
    }
    now += 11 * 60_000;
    await pages.append(copy, owner, message(250, 251, [insert(PLACES.writing, '!')]));
    const snapshots = await test.app.db
      .selectFrom('snapshot')
      .select(['version', 'parts'])
      .where('page_id', '=', copy)
      .orderBy('version')
      .execute();
    expect(snapshots.map(({ version }) => version)).toEqual([200, 250]);
    const row = await rowOf(copy);
    for (const version of [0, 1, 199, 200, 201, 251]) {
      const then = await readPage(test.app.db, row, version);
      expect(then.doc.textContent.match(/[0-4!]/g)?.length ?? 0).toBe(version);
      const hers = then.authorship().filter(({ author }) => author === owner.id);
      expect(hers).toEqual(then.authorship());
      expect(hers.reduce((letters, { from, to }) => letters + to - from, 0)).toBe(version);
    }
  });

  it('brings a client up to date that was away for longer than the server remembers', async () => {
    const { copy, owner, teacher } = await setUp();
    for (let i = 0; i < 6; i++) {
      const steps = Array.from({ length: 100 }, (_, k) =>
        insert(PLACES.writing + i * 100 + k, String(i)),
      );
      await test.app.pages.append(copy, owner, message(i * 100, i * 100 + 1, steps));
    }
    const [late] = await Promise.all([
      test.app.pages.append(
        copy,
        teacher,
        message(3, 1, [insert(PLACES.short, 'away')], 'long-away'),
      ),
      test.app.pages.append(
        copy,
        teacher,
        message(2, 1, [insert(PLACES.short, 'longer')], 'longer-away'),
      ),
    ]);
    // The two may come in either order.
    expect([601, 602]).toContain(late.version);
    expect(late.steps).toHaveLength(late.version - 3);
    const { doc } = await test.app.pages.open(copy);
    expect(doc.textContent).toContain('away');
    expect(doc.textContent).toContain('longer');
  });

  it('keeps for speed what can be made again from the log', async () => {
    const { copy, owner, school } = await setUp();
    await test.app.pages.append(
      copy,
      owner,
      message(0, 1, [insert(PLACES.short, 'sand'), insert(PLACES.writing + 4, 'three words here')]),
    );
    await handIn(test.app, await toWork(test.app, { page: copy, person: owner.id }), '');
    const kept = await test.app.db
      .selectFrom('page')
      .selectAll()
      .where('school_id', '=', school.id)
      .orderBy('id')
      .execute();
    await test.app.db
      .updateTable('page')
      .set({ done_mask: 'wrong', words: 77, written_at: null, with_teacher: false, threads: 9 })
      .where('id', '=', copy)
      .execute();
    await rebuildKept(test.app.db);
    const again = await test.app.db
      .selectFrom('page')
      .selectAll()
      .where('school_id', '=', school.id)
      .orderBy('id')
      .execute();
    expect(again).toEqual(kept);
  });

  it('never lets a row of the record be changed or taken away', async () => {
    const { copy, owner } = await setUp();
    await test.app.pages.append(copy, owner, message(0, 1, [insert(PLACES.short, 'sand')]));
    await expect(
      test.app.db.deleteFrom('step').where('page_id', '=', copy).execute(),
    ).rejects.toThrow('only ever added');
    await expect(
      test.app.db
        .updateTable('step')
        .set({ author_id: owner.id })
        .where('page_id', '=', copy)
        .execute(),
    ).rejects.toThrow('only ever added');
  });
});
