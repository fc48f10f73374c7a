import { describe, expect, it } from 'vitest';
import { reduceEvents } from './reduce';
import { isToDo, nextWork, sayNextStep } from './next-work';
import type { CopyFacts } from './state';

const NOW = Date.parse('2026-10-14T09:00:00Z');
const DAY = 86_400_000;
const { openers: _openers, ...nothing } = reduceEvents([], '');
const work = (name: string, of: Partial<CopyFacts> = {}, more: object = {}) => ({
  name,
  delivery: 'one each' as const,
  replaced: false,
  each: null,
  mask: '01',
  late: 'taken' as const,
  facts: {
    ...nothing,
    written: null,
    attached: null,
    scored: null,
    due: NOW + DAY,
    allowance: null,
    ...of,
  },
  ...more,
});
const next = (...all: ReturnType<typeof work>[]) => nextWork(all, NOW)?.name ?? null;

describe('what a student does next', () => {
  it('is what is due first, also where that has passed; what is due at no time comes after', () => {
    const [soon, overdue, sometime] = [
      work('soon'),
      work('overdue', { due: NOW - DAY }),
      work('sometime', { due: null }),
    ];
    expect(next(soon, sometime, overdue)).toBe('overdue');
    expect(next(sometime, soon)).toBe('soon');
    expect(next(sometime)).toBe('sometime');
  });

  it('is not what was handed in, what is to read, excused or not taken any more', () => {
    expect(
      next(
        work('in', { handedIn: NOW - DAY, counted: NOW - DAY }),
        work('read', {}, { delivery: 'to read' }),
        work('excused', { allowance: 'excused' }),
        work('too late', { due: NOW - DAY }, { late: 'not taken' }),
      ),
    ).toBeNull();
    const back = work('back', { handedIn: 5, handedBack: 6 });
    expect(isToDo(back)).toBe(false);
    expect(isToDo(work('revising', { handedIn: 5, handedBack: 6, written: 7 }))).toBe(true);
  });

  it('is begun, gone on with, or handed in', () => {
    expect(sayNextStep(work('new'))).toBe('Begin');
    expect(sayNextStep(work('half', { opened: 1, written: 2 }))).toBe('Go on');
    expect(sayNextStep(work('done', { opened: 1, written: 2 }, { mask: '11' }))).toBe(
      'Look over and hand in',
    );
  });
});
