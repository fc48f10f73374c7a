import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { copyFacts, planChange, type CopyChange, type StandingCopy } from './change';
import { planHandOut, type ClassFacts, type Situation } from './plan';
import { DELIVERIES, HandOutSpec, type Delivery } from './spec';

const uuid = (n: number) => `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`;
const [PAGE, CLASS, OTHER] = [uuid(1), uuid(10), uuid(11)];
const students = Array.from({ length: 6 }, (_, n) => ({ id: uuid(100 + n), name: `Student ${n}` }));
const groups = [0, 1, 2].map((n) => ({
  name: `group ${n}`,
  members: students.filter((_, index) => index % 3 === n).map(({ id }) => id),
}));

function wantedBy(
  delivery: Delivery,
  here = students,
  more: Partial<HandOutSpec> = {},
  id = CLASS,
) {
  const facts: ClassFacts = {
    id,
    name: '8A',
    open: true,
    students: here,
    groups,
    timetable: {
      timeZone: 'UTC',
      slots: [],
      holidays: [],
      term: { starts: '2026-09-01', ends: '2026-12-18' },
    },
  };
  const situation: Situation = {
    now: 0,
    goesOut: 0,
    timeZone: 'UTC',
    classes: [facts],
    blank: '',
    pages: new Map([[PAGE, { title: 'A page', parts: 1, keys: 0 }]]),
  };
  const spec = HandOutSpec.parse({
    title: 'T',
    originals: [{ page: PAGE, delivery }],
    classes: [{ class: id }],
    ...more,
  });
  return planHandOut(spec, situation).copies;
}

/** What carrying a change out makes of the copies; the server does the same in tables. */
function carriedOut(
  standing: StandingCopy[],
  change: CopyChange,
  next: () => string,
): StandingCopy[] {
  const to = (list: StandingCopy[], copy: StandingCopy) => list.some(({ id }) => id === copy.id);
  const changed = standing.map((copy): StandingCopy => ({
    ...copy,
    standing: to(change.back, copy)
      ? 'current'
      : to(change.keep, copy)
        ? 'kept'
        : to(change.withdraw, copy)
          ? 'withdrawn'
          : copy.standing,
    members: change.members.find((one) => one.copy.id === copy.id)?.members ?? copy.members,
    class: change.move.find((one) => one.copy.id === copy.id)?.class ?? copy.class,
  }));
  const made = change.make.map(({ from, ...copy }): StandingCopy => ({
    ...copy,
    id: next(),
    source: from ?? copy.source,
    begun: false,
    standing: 'current',
  }));
  return [...made, ...changed];
}
const counter = () => {
  let n = 1000;
  return () => uuid(n++);
};
const all = new Set(students.map(({ id }) => id));
const current = (copies: StandingCopy[]) => copies.filter(({ standing }) => standing === 'current');

describe('a change after handing out', () => {
  const begin = (delivery: Delivery) =>
    carriedOut([], planChange([], wantedBy(delivery), all), counter());

  it('begins own pages as the shared one stands, also where an earlier page of their own was withdrawn', () => {
    const one = students[0]?.id ?? '';
    const own = wantedBy('one each').find(({ student }) => student === one);
    const [shared] = wantedBy('one for all');
    if (!own || !shared) throw new Error('no copies');
    const standing: StandingCopy[] = [
      { ...own, id: uuid(900), begun: false, standing: 'withdrawn' },
      { ...shared, id: uuid(901), begun: true, standing: 'current' },
    ];
    const present = new Set(students.map(({ id }) => id));
    const begins = (begin: 'shared page' | 'original') => {
      const { make, back } = planChange(standing, wantedBy('one each'), present, begin);
      return [make.find(({ student }) => student === one)?.from, back.map(({ id }) => id)];
    };
    expect(begins('shared page')).toEqual([uuid(901), []]);
    expect(begins('original')).toEqual([undefined, [uuid(900)]]);
  });

  it('starts own pages from the shared one as it stands, which stays to be read', () => {
    const shared = begin('one for all').map((copy) => ({ ...copy, begun: true }));
    const change = planChange(shared, wantedBy('one each'), all, 'shared page');
    expect(change.make).toHaveLength(6);
    expect(new Set(change.make.map(({ from }) => from))).toEqual(new Set([shared[0]?.id]));
    expect(change.keep.map(({ id }) => id)).toEqual([shared[0]?.id]);
    expect(copyFacts(change)).toEqual([
      { kind: 'made', delivery: 'one each', pages: 6, students: 6, fromShared: 6 },
      { kind: 'kept to read', pages: 1, students: 6 },
    ]);
    expect(planChange(shared, wantedBy('one each'), all).make.every(({ from }) => !from)).toBe(
      true,
    );
  });

  it('keeps own copies that were begun, and takes the others out of sight', () => {
    const own = begin('one each').map((copy, n) => ({ ...copy, begun: n < 2 }));
    const change = planChange(own, wantedBy('one for all'), all);
    expect(change.keep).toHaveLength(2);
    expect(change.withdraw).toHaveLength(4);
    const back = planChange(carriedOut(own, change, counter()), wantedBy('one each'), all);
    expect(back.make).toEqual([]);
    expect(new Set(back.back.map(({ id }) => id))).toEqual(new Set(own.map(({ id }) => id)));
  });

  it('takes from sight whoever is left out, and gives it back as it was', () => {
    const own = begin('one each').map((copy) => ({ ...copy, begun: true }));
    const [first] = students;
    const without = planChange(
      own,
      wantedBy('one each', students, { without: [first?.id ?? ''] }),
      all,
    );
    expect(without.withdraw.map((copy) => copy.student)).toEqual([first?.id]);
    expect(without.keep).toEqual([]);
    const then = carriedOut(own, without, counter());
    expect(planChange(then, wantedBy('one each'), all).back).toHaveLength(1);
  });

  it('leaves the copies of those who left as they are, and lets a copy go along to another class', () => {
    const own = begin('one each').map((copy) => ({ ...copy, begun: true }));
    const rest = students.slice(1);
    const present = new Set(rest.map(({ id }) => id));
    expect(planChange(own, wantedBy('one each', rest), present).withdraw).toEqual([]);
    const moved = planChange(own, wantedBy('one each', students, {}, OTHER), all);
    expect(moved.make).toEqual([]);
    expect(moved.move).toHaveLength(6);
  });

  it('loses nothing and gives each exactly one page, over any chain of changes, joins, leaves and undoing', () => {
    const turn = fc.record({
      delivery: fc.constantFrom(...DELIVERIES),
      here: fc.subarray(students, { minLength: 1 }),
      without: fc.subarray(
        students.map(({ id }) => id),
        { maxLength: 2 },
      ),
      begin: fc.constantFrom('shared page' as const, 'original' as const),
      writes: fc.nat(50),
    });
    fc.assert(
      fc.property(fc.array(turn, { minLength: 1, maxLength: 7 }), (turns) => {
        const next = counter();
        let copies: StandingCopy[] = [];
        // There and back again: undoing is the change to the spec before.
        for (const { delivery, here, without, begin, writes } of [
          ...turns,
          ...turns.toReversed(),
        ]) {
          const wanted = wantedBy(delivery, here, { without });
          const present = new Set(here.map(({ id }) => id));
          const before = copies;
          copies = carriedOut(copies, planChange(copies, wanted, present, begin), next);
          for (const copy of before) expect(copies.some(({ id }) => id === copy.id)).toBe(true);
          for (const { id } of here) {
            const theirs = current(copies).filter(({ members }) => members.includes(id));
            expect(theirs.map((copy) => copy.delivery)).toEqual(
              without.includes(id)
                ? []
                : [wanted.find(({ members }) => members.includes(id))?.delivery],
            );
            // Whatever they wrote in is theirs to see, unless they are left out of all of it.
            for (const copy of copies)
              if (copy.begun && copy.members.includes(id) && !without.includes(id))
                expect(copy.standing).not.toBe('withdrawn');
          }
          copies = copies.map((copy, n) =>
            copy.standing === 'current' && (writes + n) % 3 === 0 ? { ...copy, begun: true } : copy,
          );
          // What was done once is not to be done again.
          const again = planChange(copies, wanted, present, begin);
          expect(
            [again.make, again.back, again.keep, again.withdraw, again.members, again.move].flat(),
          ).toEqual([]);
        }
      }),
    );
  });
});
