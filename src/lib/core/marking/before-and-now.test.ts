import { describe, expect, it } from 'vitest';
import { beforeAndNow, sayDifference } from './before-and-now';

const scoring = (ids: string[], points: (string | null)[]) => ({
  checked: null,
  scoring: {
    rubric: {
      id: 'b4a5a8f0-4d3c-4a39-9d0c-9d1f0a0f7f6e',
      title: 'Report',
      version: 0,
      table: {
        levels: [2, 1],
        criteria: ids.map((id) => ({ id, title: `On ${id}`, descriptors: ['', ''] })),
      },
    },
    criteria: ids.map((id, index) => ({ id, points: points[index] ?? null, words: '' })),
    overruled: null,
  },
});
const part = (id: string, number: number, points?: string) => ({
  id,
  number,
  label: id,
  answer: '',
  verdict: points === undefined ? ('by hand' as const) : ('right' as const),
  most: '2',
  ...(points !== undefined && { points }),
});
const checked = (...parts: ReturnType<typeof part>[]) => ({ scoring: null, checked: { parts } });

describe('a copy that was scored again', () => {
  it('is compared criterion by criterion, as far as both have them', () => {
    // The rubric has gained a criterion and lost one since; one is not scored yet.
    const before = scoring(['aim', 'style', 'lost'], ['1', '2', '2']);
    const now = scoring(['style', 'new', 'aim'], ['1.5', '2', null]);
    expect(beforeAndNow(before, now)).toEqual([
      { id: 'style', label: 'On style', was: '2', is: '1.5' },
    ]);
    expect(beforeAndNow(before, checked(part('a', 1, '2')))).toEqual([]);
  });

  it('is compared part by part, but for those that nobody has scored', () => {
    const before = checked(part('a', 1, '1'), part('b', 2));
    const now = checked(part('b', 1, '2'), part('a', 2, '2'));
    expect(beforeAndNow(before, now)).toEqual([{ id: 'a', label: 'Part 2', was: '1', is: '2' }]);
  });

  it('says by how much', () => {
    expect(sayDifference({ was: '2', is: '2.50' })).toBe('½ more');
    expect(sayDifference({ was: '4', is: '1' })).toBe('3 fewer');
    expect(sayDifference({ was: '4', is: '4.00' })).toBe('the same');
  });
});
