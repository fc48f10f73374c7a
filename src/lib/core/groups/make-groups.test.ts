import fc from 'fast-check';
import { mean } from 'simple-statistics';
import { describe, expect, it } from 'vitest';
import { balancedGroups, randomGroups, type Chance, type Member } from './make-groups';

/** The linear congruential generator of Numerical Recipes (Press and others), from memory. */
const seeded = (seed: number): Chance => {
  let state = seed >>> 0;
  return (below) => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return Math.floor((state / 2 ** 32) * below);
  };
};
const members = (n: number, value: (i: number) => Member['value'] = () => null): Member[] =>
  Array.from({ length: n }, (_, i) => ({ id: `s${i}`, value: value(i) }));

describe('groups', () => {
  it('hold everybody once, and differ in size by one at most', () => {
    const value = fc.oneof(
      fc.integer({ min: 0, max: 20 }),
      fc.constantFrom('red', 'blue'),
      fc.constant(null),
    );
    fc.assert(
      fc.property(
        fc.array(value, { maxLength: 45 }),
        fc.integer({ min: 1, max: 12 }),
        fc.nat(),
        (values, size, seed) => {
          const all = values.map((one, i) => ({ id: `s${i}`, value: one }));
          for (const make of [randomGroups, balancedGroups]) {
            const groups = make(all, size, seeded(seed));
            expect(groups.flat().sort()).toEqual(all.map(({ id }) => id).sort());
            const sizes = groups.map((group) => group.length);
            expect(Math.max(...sizes) - Math.min(...sizes)).toBeLessThanOrEqual(1);
            if (all.length >= size) expect(Math.min(...sizes)).toBeGreaterThanOrEqual(size);
          }
        },
      ),
    );
  });

  it('are others each time', () => {
    const all = members(24);
    const some = [1, 2, 3].map((seed) => JSON.stringify(randomGroups(all, 4, seeded(seed))));
    expect(new Set(some).size).toBe(3);
  });

  /** 24 students with 1 to 24 points: the mean is 12.5, and dealt to and fro each group of 4 has it exactly. */
  it('are alike in points', () => {
    const all = members(24, (i) => i + 1);
    const points = new Map(all.map(({ id, value }) => [id, Number(value)]));
    for (const group of balancedGroups(all, 4, seeded(7)))
      expect(mean(group.map((id) => points.get(id) ?? 0))).toBe(12.5);
  });

  it('have each word about equally often', () => {
    const all = members(20, (i) => (i < 10 ? 'new' : 'old'));
    const kind = new Map(all.map(({ id, value }) => [id, value]));
    for (const group of balancedGroups(all, 4, seeded(3)))
      expect(group.filter((id) => kind.get(id) === 'new')).toHaveLength(2);
  });
});
