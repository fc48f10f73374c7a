import { describe, expect, it } from 'vitest';
import {
  flagsOf,
  handBackFault,
  handInFault,
  mayWrite,
  stateOf,
  sayState,
  takeBackFault,
  marginOf,
  wantsReminder,
  type CopyFacts,
} from './state';
import { NO_FACTS } from '../../../../tests/support/copies';

const after = (facts: Partial<CopyFacts>) => stateOf({ ...NO_FACTS, ...facts });

describe('the state of a copy', () => {
  it.each([
    ['unopened', {}],
    ['opened', { opened: 1 }],
    ['working', { opened: 1, written: 2 }],
    ['attached', { opened: 1, written: 2, attached: 3 }],
    ['handed in', { written: 2, handedIn: 3 }],
    ['working', { written: 2, takenBack: 4 }],
    ['marked', { written: 2, handedIn: 3, scored: 5 }],
    ['handed in', { written: 2, scored: 3, handedIn: 4 }],
    ['handed back', { written: 2, handedIn: 3, scored: 5, handedBack: 6 }],
    ['revising', { written: 7, handedIn: 3, scored: 5, handedBack: 6 }],
    ['handed in', { written: 7, handedIn: 8, scored: 5, handedBack: 6 }],
    ['marked', { written: 7, handedIn: 8, scored: 9, handedBack: 6 }],
    ['revising', { written: 5, handedIn: 3, takenBack: 9, handedBack: 6 }],
    ['handed back', { opened: 1, handedBack: 2 }],
  ] as const)('is %s after %o', (state, facts) => {
    expect(after(facts)).toBe(state);
  });

  it('lets a student write but while the teacher has it', () => {
    expect(
      ['opened', 'working', 'handed in', 'marked', 'handed back', 'revising'].filter((s) =>
        mayWrite(s as never),
      ),
    ).toEqual(['opened', 'working', 'handed back', 'revising']);
  });

  it('can be taken back until somebody looks, and while it could come again', () => {
    const fault = (facts: Partial<CopyFacts>, now = 10) =>
      takeBackFault({ ...NO_FACTS, ...facts }, 'not taken', now);
    expect(fault({ handedIn: 5, counted: 5, staffLooked: 4 })).toBeNull();
    expect(fault({ handedIn: 5, counted: 5, staffLooked: 6 })).toBe('is being looked at');
    expect(fault({ handedIn: 5, counted: 5, scored: 6 })).toBe('is being looked at');
    expect(fault({ written: 5 })).toBe('is not handed in');
    expect(fault({ handedIn: 5, counted: 5, due: 9 })).toBe('could not come again');
    expect(fault({ handedIn: 5, counted: 5, due: 9 }, 9)).toBeNull();
    // A revision may always come again.
    expect(fault({ handedIn: 8, counted: 5, handedBack: 6, due: 9 })).toBeNull();
  });

  it('can be handed in but while the teacher has it, or too late for an assignment that takes nothing late', () => {
    const fault = (facts: Partial<CopyFacts>, rule: 'taken' | 'not taken' = 'not taken') =>
      handInFault({ ...NO_FACTS, due: 9, ...facts }, rule, 10);
    expect(fault({ handedIn: 5, counted: 5 })).toBe('is handed in');
    expect(fault({})).toBe('comes too late');
    expect(fault({}, 'taken')).toBeNull();
    expect(fault({ due: 10 })).toBeNull();
    expect(fault({ due: null })).toBeNull();
    // Handed in in time and handed back: its revision is taken.
    expect(fault({ handedIn: 5, counted: 5, handedBack: 6 })).toBeNull();
  });

  it('can be handed back once there is something in it', () => {
    expect(handBackFault(NO_FACTS)).toBe('is untouched');
    expect(handBackFault({ ...NO_FACTS, opened: 1 })).toBeNull();
    expect(handBackFault({ ...NO_FACTS, written: 1 })).toBeNull();
  });

  it('is so early or late as the hand-in that counts, and a revision neither', () => {
    const margin = (facts: Partial<CopyFacts>) => marginOf({ ...NO_FACTS, due: 9, ...facts });
    expect(margin({ handedIn: 12, counted: 12 })).toBe(3);
    expect(margin({ handedIn: 4, counted: 4, handedBack: 6 })).toBe(-5);
    expect(margin({ handedIn: 12, counted: 4, handedBack: 6 })).toBeNull();
    expect(margin({ handedIn: 12, counted: 12, allowance: 'excused' })).toBeNull();
    expect(margin({ handedIn: 12, counted: 12, due: null })).toBeNull();
    expect(margin({})).toBeNull();
  });

  it('is reminded of until it was handed in, handed back, excused or due', () => {
    const wants = (facts: Partial<CopyFacts>) =>
      wantsReminder({ ...NO_FACTS, due: 9, ...facts }, 8);
    expect(wants({})).toBe(true);
    expect(wants({ takenBack: 4 })).toBe(true);
    expect(wants({ counted: 4 })).toBe(false);
    expect(wants({ handedBack: 4 })).toBe(false);
    expect(wants({ allowance: 'excused' })).toBe(false);
    expect(wants({ due: 7 })).toBe(false);
  });
});

describe('flags', () => {
  const flags = (facts: Partial<CopyFacts>, now = 100_000) =>
    flagsOf({ ...NO_FACTS, ...facts }, now);

  it('say late by the hand-in that counts, overdue only before it', () => {
    expect(flags({ due: 50, counted: 51, handedIn: 51 })).toMatchObject({
      late: true,
      overdue: false,
    });
    expect(flags({ due: 50, counted: 49, handedIn: 90 })).toMatchObject({
      late: false,
      overdue: false,
    });
    expect(flags({ due: 50 })).toMatchObject({ late: false, overdue: true });
  });
  it('say unread until this person looks again, and now for twenty seconds', () => {
    expect(flags({ written: 10 }).unread).toBe(true);
    expect(flags({ written: 10, looked: 11 }).unread).toBe(false);
    expect(flags({ written: 10, handedIn: 12, looked: 11 }).unread).toBe(true);
    expect(flags({ written: 80_001 }).now).toBe(true);
    expect(flags({ written: 80_000 }).now).toBe(false);
  });
  it('come into the words beside the mark', () => {
    expect(sayState('working', flags({}), '110')).toBe('2 of 3');
    expect(sayState('working', flags({ due: 1 }), '110')).toBe('overdue');
    expect(sayState('attached', flags({}), '111')).toBe('not handed in');
  });
});
