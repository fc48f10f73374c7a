import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { reduceEvents, reduceForEach, type CopyEvent, type EventKind } from './reduce';
import {
  factsFor,
  flagsOf,
  handInFault,
  handInKinds,
  isWithTeacher,
  notDone,
  stateOf,
  takeBackFault,
  takeBackKinds,
} from './state';

const STUDENTS = ['ada', 'finn', 'mo'];
type Happened = [EventKind, number, string];

/** A page that a class shares and each says *done* of, due at 50. */
function page(list: readonly Happened[], students = STUDENTS) {
  const events = list.map(([kind, at, person]): CopyEvent => ({ kind, at, person }));
  const { openers, ...handing } = reduceEvents(events, 'tamsin');
  return {
    delivery: 'one for all' as const,
    openers,
    each: reduceForEach(events, students),
    facts: {
      ...handing,
      written: 1,
      attached: null,
      scored: null,
      due: 50,
      allowance: null,
    },
  };
}
type Page = ReturnType<typeof page>;
const stateFor = (one: Page, student: string) => stateOf(factsFor(one, student));

describe('a page of which each says that they are done', () => {
  it('is with the teacher once the last has said so, and not before', () => {
    const two: Happened[] = [
      ['said done', 10, 'ada'],
      ['said done', 20, 'finn'],
    ];
    expect(stateOf(page(two).facts)).toBe('working');
    expect(STUDENTS.map((one) => stateFor(page(two), one))).toEqual([
      'handed in',
      'handed in',
      'working',
    ]);
    expect(notDone(page(two))).toEqual(['mo']);
    expect(handInKinds(page(two), 'mo')).toEqual(['said done', 'handed in']);
    expect(handInKinds(page(two.slice(1)), 'mo')).toEqual(['said done']);
    const all = page([...two, ['said done', 60, 'mo'], ['handed in', 60, 'mo']]);
    expect(stateOf(all.facts)).toBe('handed in');
  });

  it('is late for who said so late, and overdue for who has not', () => {
    const late = page([
      ['said done', 10, 'ada'],
      ['said done', 60, 'finn'],
    ]);
    const flags = (student: string) => {
      const { late: isLate, overdue } = flagsOf(factsFor(late, student), 99);
      return { isLate, overdue };
    };
    expect(flags('ada')).toEqual({ isLate: false, overdue: false });
    expect(flags('finn')).toEqual({ isLate: true, overdue: false });
    expect(flags('mo')).toEqual({ isLate: false, overdue: true });
  });

  it('comes back to all when one takes theirs back, and only that one is asked again', () => {
    const all: Happened[] = [
      ...STUDENTS.map((one, n): Happened => ['said done', n + 10, one]),
      ['handed in', 12, 'mo'],
    ];
    expect(takeBackKinds(page(all))).toEqual(['took done back', 'taken back']);
    const open = page([...all, ['took done back', 20, 'ada'], ['taken back', 20, 'ada']]);
    expect(stateOf(open.facts)).toBe('working');
    expect(notDone(open)).toEqual(['ada']);
    expect(takeBackKinds(open)).toEqual(['took done back']);
  });

  it('is looked at by its teacher meanwhile without holding anybody to it; then it stays', () => {
    const one: Happened[] = [
      ['said done', 10, 'ada'],
      ['looked', 15, 'tamsin'],
    ];
    expect(takeBackFault(factsFor(page(one), 'ada'), 'taken', 20)).toBeNull();
    expect(takeBackFault(factsFor(page(one), 'finn'), 'taken', 20)).toBe('is not handed in');
    const all: Happened[] = [
      ...one,
      ['said done', 20, 'finn'],
      ['said done', 30, 'mo'],
      ['handed in', 30, 'mo'],
    ];
    expect(takeBackFault(factsFor(page(all), 'ada'), 'taken', 40)).toBeNull();
    const seen = page([...all, ['looked', 45, 'tamsin']]);
    expect(takeBackFault(factsFor(seen, 'ada'), 'taken', 49)).toBe('is being looked at');
  });

  it('waits for nobody who is gone, and is handed in for who joins later', () => {
    const two: Happened[] = [
      ['said done', 10, 'ada'],
      ['said done', 20, 'finn'],
    ];
    expect(notDone(page(two, ['ada', 'finn']))).toEqual([]);
    const all = page([...two, ['handed in', 20, 'finn']]);
    expect(stateFor(all, 'mo')).toBe('handed in');
    expect(handInFault(factsFor(all, 'mo'), 'taken', 30)).toBe('is handed in');
  });

  it('stands as a plain count of who said so, whatever happens in whatever order', () => {
    const move = fc.record({
      who: fc.constantFrom(...STUDENTS),
      what: fc.constantFrom('say', 'take back', 'hand back'),
    });
    fc.assert(
      fc.property(fc.array(move, { maxLength: 30 }), (moves) => {
        const list: Happened[] = [];
        const done = new Set<string>();
        let isWith = false;
        moves.forEach(({ who, what }, n) => {
          const at = n + 2;
          const now = page(list);
          const own = factsFor(now, who);
          const put = (kinds: readonly EventKind[]) =>
            list.push(...kinds.map((kind): Happened => [kind, at, who]));
          if (what === 'hand back') {
            list.push(['handed back', at, 'tamsin']);
            done.clear();
            isWith = false;
          } else if (what === 'say') {
            expect(handInFault(own, 'taken', at) === null).toBe(!done.has(who));
            if (done.has(who)) return;
            put(handInKinds(now, who));
            done.add(who);
            isWith = done.size === STUDENTS.length;
          } else {
            expect(takeBackFault(own, 'taken', at) === null).toBe(done.has(who));
            if (!done.has(who)) return;
            put(takeBackKinds(now));
            done.delete(who);
            isWith = false;
          }
        });
        const end = page(list);
        expect(isWithTeacher(stateOf(end.facts))).toBe(isWith);
        expect(STUDENTS.filter((one) => isWithTeacher(stateFor(end, one)))).toEqual(
          STUDENTS.filter((one) => done.has(one)),
        );
      }),
    );
  });
});
