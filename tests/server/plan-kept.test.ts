import fc from 'fast-check';
import { Fragment, Slice } from 'prosemirror-model';
import { ReplaceStep } from 'prosemirror-transform';
import { beforeAll, describe, expect, it } from 'vitest';
import type { ChangeFact } from '../../src/lib/core/handout/change-facts';
import type { PlanFact } from '../../src/lib/core/handout/plan-facts';
import { DELIVERIES, HAND_INS, plainSpec, type HandOutSpec } from '../../src/lib/core/handout/spec';
import { schema } from '../../src/lib/core/page/schema';
import { readCopies } from '../../src/lib/server/copy/facts';
import { handIn } from '../../src/lib/server/copy/moves';
import { readAssignmentChanges } from '../../src/lib/server/handout/undo';
import { useApp } from '../support/app';
import { makeBoats, makeSchool, PLACES, questionPage, type TestSchool } from '../support/school';
import { changeAs, handOutAs, previewChangeAs, undoAs } from '../support/deeds';
import { toWork, newPage } from '../support/grants';

/** What a plan says before something happens is held, fact by fact, against what the database has after. */

const test = useApp();
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

/** Everything that facts are about, as it stands. */
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

/** Whether a fact is what happened. One that is not known here fails the test. */
async function check(fact: PlanFact | ChangeFact, after: Standing, before: Standing) {
  const known = new Set(before.copies.map(({ id }) => id));
  const was = new Map(before.copies.map((copy) => [copy.id, copy]));
  const page = 'page' in fact ? (fact.page ?? undefined) : undefined;
  /** A copy to write in, with one of its students. */
  const written = after.copies.find(({ delivery, current }) => current && delivery !== 'to read');
  const [writer = ''] = written?.members ?? [];
  switch (fact.kind) {
    case 'nobody':
      return expect(after.copies).toEqual([]);
    case 'own copies': {
      const own = ofPage(after, page).filter(({ delivery }) => delivery === 'one each');
      expect(own).toHaveLength(fact.copies);
      expect(new Set(own.map(({ student }) => student)).size).toBe(own.length);
      return onlyTheirs(own.filter(isAdapted), fact.adapted);
    }
    case 'read': {
      const read = ofPage(after, page).filter((copy) => !copy.student);
      expect(spread(read)).toBe(fact.students);
      for (const copy of read)
        for (const student of copy.members) expect(await relation(student, copy.id)).toBe('reader');
      return;
    }
    case 'shared by class': {
      const shared = ofPage(after, page).filter((copy) => !copy.student);
      expect(shared.map(({ members }) => members.length)).toEqual([fact.students]);
      for (const student of shared[0]?.members ?? [])
        expect(await relation(student, shared[0]?.id ?? '')).toBe('owner');
      return;
    }
    case 'shared by groups': {
      const shared = ofPage(after, page).filter(({ delivery }) => delivery === 'one per group');
      expect(shared).toHaveLength(fact.pages);
      return expect(spread(shared)).toBe(fact.students);
    }
    case 'alone':
      return expect(
        ofPage(after, page).filter((copy) => copy.student && !isAdapted(copy)),
      ).toHaveLength(fact.students);
    case 'adapted copies':
      return onlyTheirs(
        after.copies.filter((copy) => copy.current && isAdapted(copy)),
        fact.students,
      );
    case 'done or not':
      expect(after.task.form).toBe('done or not');
      return expect(after.copies.filter(({ text }) => text === '')).toHaveLength(fact.students);
    case 'due':
      if ('times' in fact)
        return expect(fact.times.map(({ at }) => at)).toEqual([after.due?.getTime() ?? null]);
      return expect([after.due?.getTime() ?? null, before.due?.getTime() ?? null]).toEqual([
        fact.becomes,
        fact.was,
      ]);
    case 'guarded':
      if ('becomes' in fact) return expect(after.task.guarded).toBe(fact.becomes);
      if (!written) return;
      await expect(write(written.id, writer, PLACES.guarded, 'spoilt')).rejects.toThrow();
      return write(written.id, writer, PLACES.short, 'an answer');
    case 'not guarded':
      if (written) await write(written.id, writer, PLACES.guarded, 'changed');
      return;
    case 'points': {
      const has = ({ task }: Standing) => (task.points === null ? null : Number(task.points));
      const number = (points: string | null) => (points === null ? null : Number(points));
      if ('points' in fact) return expect(has(after)).toBe(number(fact.points));
      return expect([has(after), has(before)]).toEqual([number(fact.becomes), number(fact.was)]);
    }
    case 'more points': {
      const copies = await readCopies(test.app.db, { class: school.class }, school.teacher);
      const more = copies.filter(
        ({ id, points }) =>
          after.copies.some((copy) => copy.id === id) && Number(points) > Number(fact.becomes),
      );
      return expect(more).toHaveLength(fact.copies);
    }
    case 'late':
      return expect(after.task.late).toBe(fact.becomes);
    case 'each says done':
    case 'hand in': {
      const is = fact.kind === 'hand in' ? fact.becomes : 'each';
      const ids = after.copies.filter((copy) => copy.current && !copy.student).map(({ id }) => id);
      const copies = await readCopies(test.app.db, { class: school.class }, '');
      for (const { id, delivery, each } of copies)
        if (ids.includes(id))
          expect(each !== null).toBe(is === 'each' && delivery === 'one for all');
      return;
    }
    case 'not taken late':
      expect(after.task.late).toBe('not taken');
      if (!written || !after.due || after.due > new Date()) return;
      return expect(
        handIn(test.app, await toWork(test.app, { page: written.id, person: writer }), ''),
      ).rejects.toThrow('not taken any more');
    case 'made': {
      const made = after.copies.filter(
        (copy) => !known.has(copy.id) && copy.delivery === fact.delivery,
      );
      expect(made).toHaveLength(fact.pages);
      expect(spread(made)).toBe(fact.students);
      const shared = before.copies.filter((copy) => !copy.student && copy.current);
      const as = made.filter((copy) =>
        shared.some(
          ({ text, members }) => text === copy.text && members.includes(copy.student ?? ''),
        ),
      );
      if (fact.fromShared === fact.pages) expect(as).toHaveLength(made.length);
      return;
    }
    case 'brought back': {
      const back = before.copies.filter(
        (copy) => !copy.current && after.copies.find(({ id }) => id === copy.id)?.current,
      );
      return expect(back).toHaveLength(fact.pages);
    }
    case 'kept to read': {
      const kept = after.copies.filter(
        ({ id, current, gone }) => !current && !gone && (was.get(id)?.current || was.get(id)?.gone),
      );
      expect(kept).toHaveLength(fact.pages);
      expect(spread(kept)).toBe(fact.students);
      for (const copy of kept)
        expect(await relation(copy.members[0] ?? '', copy.id)).toBe('reader');
      return;
    }
    case 'out of sight': {
      const gone = after.copies.filter((copy) => copy.gone && !was.get(copy.id)?.gone);
      expect(gone).toHaveLength(fact.pages);
      for (const copy of gone)
        expect(await relation(copy.members[0] ?? '', copy.id)).toBe('nobody');
      return;
    }
    case 'other members': {
      const changed = after.copies.filter((copy) => {
        const old = was.get(copy.id);
        return old && [...old.members].sort().join() !== [...copy.members].sort().join();
      });
      return expect(changed).toHaveLength(fact.pages);
    }
    default:
      throw new Error(`nobody checks “${fact.kind}”`);
  }
}
async function checkAll(
  facts: readonly (PlanFact | ChangeFact)[],
  after: Standing,
  before: Standing,
) {
  for (const fact of facts) await check(fact, after, before);
}

/** Any spec for the class. Students are told by their number. */
const anySpec = fc.record({
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
  handIn: fc.constantFrom(...HAND_INS),
  due: fc.constantFrom(null, '2020-01-06T10:00', '2031-05-06T10:00'),
});
type Any = typeof anySpec extends fc.Arbitrary<infer T> ? T : never;

function specOf(any: Any): HandOutSpec {
  const students = (numbers: readonly number[]) => numbers.map((n) => school.students[n] ?? '');
  const pages = [
    { page: original, delivery: any.delivery },
    ...(any.also ? [{ page: second, delivery: any.also }] : []),
  ];
  const isTask = any.form === 'done or not';
  return plainSpec(original, school.class, {
    title: 'Any',
    form: any.form,
    points: any.points,
    guarded: any.guarded,
    late: any.late,
    handIn: any.handIn,
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

describe('every fact of a plan', () => {
  it('is what then happens, whatever is handed out', async () => {
    await fc.assert(
      fc.asyncProperty(anySpec, async (any) => {
        const id = crypto.randomUUID();
        const spec = specOf(any);
        const { facts } = await handOutAs(test.app, {
          id,
          spec,
          by: school.teacher,
          at: new Date(),
        });
        await checkAll(facts, await stand(id), NOTHING);
      }),
      { numRuns: 30 },
    );
  });

  it('is what then happens, whatever is changed, and undoing it loses no text', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(anySpec, { minLength: 2, maxLength: 4 }),
        fc.boolean(),
        async (all, fromShared) => {
          const [first, ...later] = all.map((any) => specOf({ ...any, form: 'pages' }));
          if (!first) return;
          const id = crypto.randomUUID();
          await handOutAs(test.app, { id, spec: first, by: school.teacher, at: new Date() });
          for (const spec of later) {
            const written = (await stand(id)).copies.filter(
              (copy) => copy.current && copy.delivery !== 'to read',
            );
            for (const [n, copy] of written.slice(0, 2).entries())
              await write(copy.id, copy.members[0] ?? '', PLACES.short, `kept ${n} `);
            const before = await stand(id);
            const begin = fromShared ? ('shared page' as const) : ('original' as const);
            const change = { assignment: id, spec, begin, by: school.teacher, at: new Date() };
            const { facts } = await previewChangeAs(test.app, change);
            const done = await changeAs(test.app, change);
            expect(done).toEqual(facts);
            const after = await stand(id);
            await checkAll(done, after, before);
            for (const copy of before.copies)
              expect(after.copies.find((one) => one.id === copy.id)?.text).toBe(copy.text);
          }
          const [last] = await readAssignmentChanges(test.app.db, id);
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
