import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { EVENT_KINDS, reduceEvents, type CopyEvent, type EventKind } from './reduce';
import { flagsOf, stateOf, type CopyFacts } from './state';

type Happened = [EventKind, number, string?][];
const events = (...list: Happened): CopyEvent[] =>
  list.map(([kind, at, person = 'ada']) => ({ kind, at, person }));

/** How a copy stands at a time, due at 50 and written in at 5. */
const at = (now: number, ...list: Happened) => {
  const { openers, ...handing } = reduceEvents(events(...list), 'tamsin');
  const facts: CopyFacts = {
    ...handing,
    written: 5,
    attached: null,
    scored: null,
    due: 50,
    allowance: null,
  };
  const { late, overdue } = flagsOf(facts, now);
  return { state: stateOf(facts), late, overdue, counted: facts.counted };
};

describe('the events of a copy', () => {
  it('handed in empty in time, taken back, handed in after the due time: late', () => {
    expect(at(70, ['handed in', 10], ['taken back', 20], ['handed in', 60])).toEqual({
      state: 'handed in',
      late: true,
      overdue: false,
      counted: 60,
    });
  });
  it('handed in in time and taken back: overdue once the time is over, until it comes again', () => {
    const taken: Happened = [
      ['handed in', 10],
      ['taken back', 20],
    ];
    expect(at(49, ...taken)).toMatchObject({ state: 'working', overdue: false });
    expect(at(51, ...taken)).toMatchObject({ state: 'working', overdue: true });
    expect(at(51, ...taken, ['handed in', 40])).toMatchObject({ late: false, counted: 40 });
  });
  it('a revision handed in after the due time is not late; the first round says', () => {
    const first: Happened = [
      ['handed in', 10],
      ['handed back', 20],
    ];
    expect(at(99, ...first, ['handed in', 80])).toMatchObject({
      state: 'handed in',
      late: false,
      counted: 10,
    });
    expect(
      at(99, ['handed in', 60], ['handed back', 70], ['handed in', 80], ['taken back', 90]),
    ).toMatchObject({ state: 'revising', late: true, counted: 60 });
  });
  it('what was handed back without being handed in is overdue no more, and late if it comes then', () => {
    expect(at(99, ['handed back', 60])).toMatchObject({ state: 'handed back', overdue: false });
    expect(at(99, ['handed back', 60], ['handed in', 70])).toMatchObject({
      state: 'handed in',
      late: true,
    });
  });
  it('looks count for whoever looked', () => {
    const looks = events(['looked', 3, 'bea'], ['looked', 4, 'tamsin'], ['looked', 6, 'bea']);
    expect(reduceEvents(looks, 'tamsin')).toMatchObject({ looked: 4, staffLooked: 6 });
    expect(reduceEvents(looks, 'idris')).toMatchObject({ looked: null, staffLooked: 6 });
  });
  it('is never late and overdue at once, and late only by a hand-in after the due time', () => {
    const history = fc.array(fc.constantFrom(...EVENT_KINDS), { maxLength: 12 });
    fc.assert(
      fc.property(history, (kinds) => {
        const list = kinds.map((kind, n): [EventKind, number] => [kind, (n + 1) * 10]);
        const { late, overdue, counted } = at(200, ...list);
        expect(late && overdue).toBe(false);
        if (late) expect(counted).toBeGreaterThan(50);
      }),
    );
  });
});
