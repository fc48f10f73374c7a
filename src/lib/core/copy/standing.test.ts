import { describe, expect, it } from 'vitest';
import { sayWhatChanged, type Shown } from './standing';

const NOW = Date.UTC(2026, 9, 5, 8);
const HOUR = 3_600_000;
const was: Shown = {
  title: 'Tides',
  instructions: '',
  points: '12',
  guarded: false,
  late: 'taken',
  each: false,
  facts: { due: NOW + HOUR, allowance: null },
};
const says = (is: Partial<Shown>, before = was) =>
  sayWhatChanged(before, { ...before, ...is }, NOW, 'UTC');

describe('what changed of an open copy', () => {
  it('is nothing where it stands as it stood', () => {
    expect(says({})).toEqual([]);
  });

  it('is said a sentence each', () => {
    expect(says({ title: 'High “water”' })).toEqual(['It is called “High “water”” now.']);
    expect(says({ instructions: 'Two sentences.' })).toEqual(['The instructions are new.']);
    expect(says({ points: '7.5' })).toEqual(['It counts for 7½ points now.']);
    expect(says({ points: null })).toEqual(['It does not count for points any more.']);
    expect(says({ guarded: true, late: 'not taken' })).toHaveLength(2);
    expect(says({ each: true })).toEqual([
      'Each of you says when you are done with it now; with the last of you it is handed in.',
    ]);
  });

  it('tells an extension, an excuse and a new due time apart, and what is taken back', () => {
    const due = (facts: Shown['facts'], before = was.facts) =>
      says({ facts }, { ...was, facts: before })[0];
    const later = NOW + 2 * HOUR;
    expect(due({ due: later, allowance: 'extension' })).toBe('You have until 10:00.');
    expect(due({ due: later, allowance: null })).toBe('It is due 10:00 now.');
    const excused = { due: later, allowance: 'excused' } as const;
    expect(due(excused)).toBe('You are excused from it.');
    expect(due({ due: later, allowance: null }, excused)).toBe(
      'You are not excused any more. It is due 10:00 now.',
    );
    expect(due({ due: null, allowance: null })).toBe('It has no due time any more.');
  });
});
