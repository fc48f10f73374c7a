import fc from 'fast-check';
import { Fragment, Slice } from 'prosemirror-model';
import { ReplaceStep } from 'prosemirror-transform';
import { beforeAll, describe, expect, it } from 'vitest';
import { sayTime } from '../../src/lib/core/calendar/say-time';
import { plainWish, DELIVERIES, type HandOutWish } from '../../src/lib/core/handout/wish';
import { readPoints } from '../../src/lib/core/marking/points';
import { schema } from '../../src/lib/core/page/schema';
import { handIn } from '../../src/lib/server/copy/moves';
import { readChanges } from '../../src/lib/server/handout/undo';
import { useApp } from '../support/app';
import { makeBoats, makeSchool, PLACES, questionPage, type TestSchool } from '../support/school';
import { changeAs, handOutAs, previewChangeAs, undoAs } from '../support/deeds';
import { toWork, newPage } from '../support/grants';

/** What a plan says before something happens is held, sentence by sentence, against what the database has after. */

const test = useApp();
const ZONE = 'Europe/Dublin';
let school: TestSchool;
let original = '';
let second = '';
let adapted = '';
let grouping = '';

beforeAll(async () => {
  school = await makeSchool(test.app, 6);
  const { db } = test.app;
  const begin = (title: string) =>
    newPage(
      db,
      {
        title,
        at: new Date(),
        in: { kind: 'original', course: school.course },
      },
      questionPage(),
    );
  [original, second, adapted] = [await begin('Tide'), await begin('Light'), await begin('Wide')];
  await db
    .updateTable('page')
    .set({ adapted: true, from_id: original, from_version: 0 })
    .where('id', '=', adapted)
    .execute();
  grouping = await makeBoats(test.app, school);
});

interface Copy {
  id: string;
  delivery: string;
  student: string | null;
  members: string[];
  for: string;
  source: string;
  text: string;
  current: boolean;
  gone: boolean;
}

/** Everything that sentences are about, as it stands. */
async function stand(assignment: string) {
  const rows = await test.app.db
    .selectFrom('page')
    .select(['id', 'delivery', 'student_id', 'for_id', 'source_id', 'away_at', 'replaced_at'])
    .where('assignment_id', '=', assignment)
    .where('kind', '=', 'copy')
    .execute();
  const members = await test.app.db.selectFrom('page_member').selectAll().execute();
  const copies = await Promise.all(
    rows.map(async (row): Promise<Copy> => ({
      id: row.id,
      delivery: row.delivery ?? '',
      student: row.student_id,
      members: row.student_id
        ? [row.student_id]
        : members.filter(({ page_id }) => page_id === row.id).map(({ person_id }) => person_id),
      for: row.for_id ?? '',
      source: row.source_id ?? '',
      text: (await test.app.pages.open(row.id)).doc.textContent,
      current: !row.away_at && !row.replaced_at,
      gone: row.away_at !== null,
    })),
  );
  const task = await test.app.db
    .selectFrom('assignment')
    .selectAll()
    .where('id', '=', assignment)
    .executeTakeFirstOrThrow();
  const handed = await test.app.db
    .selectFrom('assignment_class')
    .select(['due_at'])
    .where('assignment_id', '=', assignment)
    .executeTakeFirstOrThrow();
  return { copies, task, due: handed.due_at };
}
type Standing = Awaited<ReturnType<typeof stand>>;

const relation = async (student: string, page: string) =>
  (await test.app.findPage(student, page))?.relation;
const titles = () => ({ Tide: original, Light: second });
const ofPage = (standing: Standing, title: string | undefined) =>
  standing.copies.filter(
    (copy) =>
      copy.current && (!title || copy.for === titles()[title as keyof ReturnType<typeof titles>]),
  );
const spread = (copies: readonly Copy[]) => new Set(copies.flatMap(({ members }) => members)).size;
async function write(page: string, student: string, at: number, text: string) {
  const { version } = await test.app.pages.open(page);
  const step = new ReplaceStep(at, at, new Slice(Fragment.from(schema.text(text)), 0, 0));
  return test.app.pages.append(
    page,
    { id: student, owner: true },
    {
      base: version,
      client: crypto.randomUUID().slice(0, 18),
      first: 1,
      lost: [],
      steps: [step.toJSON()],
    },
  );
}
async function onlyTheirs(copies: readonly Copy[], count: number) {
  expect(copies).toHaveLength(count);
  for (const copy of copies)
    for (const student of school.students)
      if (student !== copy.student) expect(await relation(student, copy.id)).toBe('nobody');
}
const isAdapted = (copy: Copy) => copy.source !== copy.for;

type Check = (found: (string | undefined)[], after: Standing, before: Standing) => unknown;
const OF = '(?: of “(Tide|Light)”)?';
/** How each sentence that a plan has is checked. A sentence that none of them knows fails the test. */
const CHECKS: [RegExp, Check][] = [
  [
    new RegExp(
      `^(\\d+) cop(?:y|ies)${OF} will be made, (?:each )?named for its student(?: in 7A)?(?:: (\\d+) of the page and (\\d+) of .*)?\\.$`,
    ),
    async ([count, title, plain, special], after) => {
      const own = ofPage(after, title).filter(({ delivery }) => delivery === 'one each');
      expect(own).toHaveLength(Number(count));
      expect(new Set(own.map(({ student }) => student)).size).toBe(own.length);
      const apart = own.filter(isAdapted);
      expect(apart).toHaveLength(Number(special ?? 0));
      if (plain) expect(own.length - apart.length).toBe(Number(plain));
      await onlyTheirs(apart, apart.length);
    },
  ],
  [
    new RegExp(`^(\\d+) students? will read the page${OF}; nobody writes on it\\.$`),
    async ([count, title], after) => {
      const read = ofPage(after, title).filter((copy) => !copy.student);
      expect(spread(read)).toBe(Number(count));
      for (const copy of read)
        for (const student of copy.members) expect(await relation(student, copy.id)).toBe('reader');
    },
  ],
  [
    new RegExp(`^1 page${OF} will be shared by (\\d+) students? of 7A\\.$`),
    async ([title, count], after) => {
      const shared = ofPage(after, title).filter((copy) => !copy.student);
      expect(shared.map(({ members }) => members.length)).toEqual([Number(count)]);
      for (const student of shared[0]?.members ?? [])
        expect(await relation(student, shared[0]?.id ?? '')).toBe('owner');
    },
  ],
  [
    new RegExp(
      `^(\\d+) pages?${OF} will be made, one for each group in 7A, for (\\d+) students?\\.$`,
    ),
    ([count, title, students], after) => {
      const shared = ofPage(after, title).filter(({ delivery }) => delivery === 'one per group');
      expect(shared).toHaveLength(Number(count));
      expect(spread(shared)).toBe(Number(students));
    },
  ],
  [
    new RegExp(`^(\\d+) students? will get a page${OF} alone\\.$`),
    ([count, title], after) =>
      expect(ofPage(after, title).filter((copy) => copy.student && !isAdapted(copy))).toHaveLength(
        Number(count),
      ),
  ],
  [
    /^(\d+) students? will get a page adapted for them, which only .*\.$/,
    ([count], after) =>
      onlyTheirs(
        after.copies.filter((copy) => copy.current && isAdapted(copy)),
        Number(count),
      ),
  ],
  [
    /^(\d+) students? will be asked to say when it is done; there is no page\.$/,
    ([count], after) => {
      expect(after.task.form).toBe('done or not');
      expect(after.copies.filter(({ text }) => text === '')).toHaveLength(Number(count));
    },
  ],
  [
    /^It is (?:due (.*)|(without a due time))\.$/,
    ([time], after) => expect(after.due && sayTime(after.due.getTime(), ZONE)).toBe(time ?? null),
  ],
  [
    /^Your text on the page is guarded: answers go in (\d+) places\.$/,
    async (_found, after) => {
      const copy = after.copies.find(({ delivery, current }) => current && delivery !== 'to read');
      const [student = ''] = copy?.members ?? [];
      if (!copy) return;
      await expect(write(copy.id, student, PLACES.guarded, 'spoilt')).rejects.toThrow();
      await write(copy.id, student, PLACES.short, 'an answer');
    },
  ],
  [
    /^Your text is not guarded: students can change all of the page\.$/,
    async (_found, after) => {
      const copy = after.copies.find(({ delivery, current }) => current && delivery !== 'to read');
      const [student = ''] = copy?.members ?? [];
      if (copy) await write(copy.id, student, PLACES.guarded, 'changed');
    },
  ],
  [
    /^It counts for (.*) points\.$/,
    ([points], after) => expect(Number(after.task.points)).toBe(Number(readPoints(points ?? ''))),
  ],
  [
    /^After its due time it is not taken any more\.$/,
    async (_found, after) => {
      expect(after.task.late).toBe('not taken');
      const copy = after.copies.find(({ delivery, current }) => current && delivery !== 'to read');
      if (!copy || !after.due || after.due > new Date()) return;
      await expect(
        handIn(
          test.app,
          await toWork(test.app, { page: copy.id, person: copy.members[0] ?? '' }),
          '',
        ),
      ).rejects.toThrow('not taken any more');
    },
  ],
  // A change after handing out.
  [
    /^(\d+) new pages? will be made, (to read|shared by the class|shared by a group|one each), for (\d+) students?(; .*)?\.$/,
    ([count, how, students, begins], after, before) => {
      const delivery = {
        'to read': 'to read',
        'shared by the class': 'one for all',
        'shared by a group': 'one per group',
        'one each': 'one each',
      }[how ?? ''];
      const known = new Set(before.copies.map(({ id }) => id));
      const made = after.copies.filter((copy) => !known.has(copy.id) && copy.delivery === delivery);
      expect(made).toHaveLength(Number(count));
      expect(spread(made)).toBe(Number(students));
      const shared = before.copies.filter((copy) => !copy.student && copy.current);
      const as = made.filter((copy) =>
        shared.some(
          ({ text, members }) => text === copy.text && members.includes(copy.student ?? ''),
        ),
      );
      if (begins?.startsWith('; each')) expect(as).toHaveLength(made.length);
    },
  ],
  [
    /^(\d+) earlier pages? will come back as (?:it was|they were)\.$/,
    ([count], after, before) => {
      const back = before.copies.filter(
        (copy) => !copy.current && after.copies.find(({ id }) => id === copy.id)?.current,
      );
      expect(back).toHaveLength(Number(count));
    },
  ],
  [
    /^(\d+) pages? will be kept for (\d+) students? to read, and written in no longer\.$/,
    async ([count, students], after, before) => {
      const was = new Map(before.copies.map((copy) => [copy.id, copy]));
      const kept = after.copies.filter(
        ({ id, current, gone }) => !current && !gone && (was.get(id)?.current || was.get(id)?.gone),
      );
      expect(kept).toHaveLength(Number(count));
      expect(spread(kept)).toBe(Number(students));
      for (const copy of kept)
        expect(await relation(copy.members[0] ?? '', copy.id)).toBe('reader');
    },
  ],
  [
    /^(\d+) pages? will go out of sight(?:, \d+ of them begun)?; nothing in (?:it|them) is lost\.$/,
    async ([count], after, before) => {
      const was = new Map(before.copies.map((copy) => [copy.id, copy]));
      const gone = after.copies.filter((copy) => copy.gone && !was.get(copy.id)?.gone);
      expect(gone).toHaveLength(Number(count));
      for (const copy of gone)
        expect(await relation(copy.members[0] ?? '', copy.id)).toBe('nobody');
    },
  ],
  [
    /^(\d+) shared pages? will have other people in (?:it|them)\.$/,
    ([count], after, before) => {
      const changed = after.copies.filter((copy) => {
        const was = before.copies.find(({ id }) => id === copy.id);
        return was && [...was.members].sort().join() !== [...copy.members].sort().join();
      });
      expect(changed.length).toBe(Number(count));
    },
  ],
  [
    /^In 7A it will be (?:due (.*)|without a due time), not (?:due (.*)|without a due time)\.$/,
    ([becomes, was], after, before) => {
      const says = (due: Date | null) => (due ? sayTime(due.getTime(), ZONE) : undefined);
      expect([says(after.due), says(before.due)]).toEqual([becomes, was]);
    },
  ],
  [
    /^It will count for (.*) points, not (.*) points; points that were given stay as they are\.$/,
    ([becomes, was], after, before) => {
      const points = (text: string | undefined) =>
        text === 'no' ? null : Number(readPoints(text ?? ''));
      const has = ({ task }: Standing) => (task.points === null ? null : Number(task.points));
      expect([has(after), has(before)]).toEqual([points(becomes), points(was)]);
    },
  ],
  [
    /^Your text will (be guarded|not be guarded any more)\.$/,
    ([how], after) => expect(after.task.guarded).toBe(how === 'be guarded'),
  ],
  [
    /^(It will be taken after its due time|After its due time it will not be taken any more)\.$/,
    ([how], after) => expect(after.task.late).toBe(how?.startsWith('It') ? 'taken' : 'not taken'),
  ],
];

async function check(sentences: readonly string[], after: Standing, before: Standing) {
  for (const sentence of sentences) {
    const known = CHECKS.filter(([pattern]) => pattern.test(sentence));
    expect(known, sentence).toHaveLength(1);
    for (const [pattern, holds] of known)
      await holds(pattern.exec(sentence)?.slice(1) ?? [], after, before);
  }
}

/** Any wish for the class. Students are told by their number. */
const anyWish = fc.record({
  delivery: fc.constantFrom(...DELIVERIES),
  also: fc.option(fc.constantFrom(...DELIVERIES), { freq: 3 }),
  form: fc.constantFrom(
    'pages' as const,
    'pages' as const,
    'pages' as const,
    'done or not' as const,
  ),
  without: fc.subarray([0, 1, 2, 3, 4, 5], { maxLength: 3 }),
  only: fc.option(fc.subarray([0, 1, 2, 3, 4, 5], { minLength: 1 }), { freq: 3 }),
  special: fc.option(fc.nat(5), { freq: 2 }),
  points: fc.option(fc.constantFrom('10', '7.5', '0.25')),
  guarded: fc.boolean(),
  late: fc.constantFrom('taken' as const, 'not taken' as const),
  due: fc.constantFrom(null, '2020-01-06T10:00', '2031-05-06T10:00'),
});
type Any = typeof anyWish extends fc.Arbitrary<infer T> ? T : never;

function wishOf(any: Any): HandOutWish {
  const students = (numbers: readonly number[]) => numbers.map((n) => school.students[n] ?? '');
  const pages = [
    { page: original, delivery: any.delivery },
    ...(any.also ? [{ page: second, delivery: any.also }] : []),
  ];
  const isTask = any.form === 'done or not';
  return plainWish(original, school.class, {
    title: 'Any',
    form: any.form,
    points: any.points,
    guarded: any.guarded,
    late: any.late,
    classes: [{ class: school.class, unit: null, grouping, due: null }],
    originals: isTask ? [] : pages,
    without: students(any.without),
    only: any.only && students(any.only),
    adapted:
      any.special === null || isTask
        ? []
        : [{ page: adapted, instead: original, students: students([any.special]) }],
    due: any.due ? { kind: 'at', local: any.due } : { kind: 'none' },
  });
}

const NOTHING: Standing = { copies: [], due: null, task: {} as Standing['task'] };

describe('every sentence of a plan', () => {
  it('is what then happens, whatever is handed out', async () => {
    await fc.assert(
      fc.asyncProperty(anyWish, async (any) => {
        const id = crypto.randomUUID();
        const wish = wishOf(any);
        const { sentences } = await handOutAs(test.app, {
          id,
          wish,
          by: school.teacher,
          at: new Date(),
        });
        const nobody = sentences.filter((one) => one.startsWith('Nobody is in'));
        const after = await stand(id);
        if (nobody.length > 0) expect(after.copies).toEqual([]);
        await check(
          sentences.filter((one) => !nobody.includes(one)),
          after,
          NOTHING,
        );
      }),
      { numRuns: 30 },
    );
  });

  it('is what then happens, whatever is changed, and undoing it loses no text', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(anyWish, { minLength: 2, maxLength: 4 }),
        fc.boolean(),
        async (all, fromShared) => {
          const [first, ...later] = all.map((any) => wishOf({ ...any, form: 'pages' }));
          if (!first) return;
          const id = crypto.randomUUID();
          await handOutAs(test.app, { id, wish: first, by: school.teacher, at: new Date() });
          for (const wish of later) {
            const written = (await stand(id)).copies.filter(
              (copy) => copy.current && copy.delivery !== 'to read',
            );
            for (const [n, copy] of written.slice(0, 2).entries())
              await write(copy.id, copy.members[0] ?? '', PLACES.short, `kept ${n} `);
            const before = await stand(id);
            const begin = fromShared ? ('shared page' as const) : ('original' as const);
            const change = { assignment: id, wish, begin, by: school.teacher, at: new Date() };
            const { says } = await previewChangeAs(test.app, change);
            const done = await changeAs(test.app, change);
            expect(done.length > 0 ? done : ['Nothing changes.']).toEqual(says);
            const after = await stand(id);
            await check(done, after, before);
            for (const copy of before.copies)
              expect(after.copies.find((one) => one.id === copy.id)?.text).toBe(copy.text);
          }
          const [last] = await readChanges(test.app.db, id);
          if (!last) return;
          const before = await stand(id);
          const undo = { assignment: id, change: last.id, by: school.teacher, at: new Date() };
          await undoAs(test.app, undo);
          const after = await stand(id);
          for (const copy of before.copies)
            expect(after.copies.find((one) => one.id === copy.id)?.text).toBe(copy.text);
        },
      ),
      { numRuns: 20 },
    );
  });
});
