import fc from 'fast-check';
import * as statistics from 'simple-statistics';
import { describe, expect, it } from 'vitest';
import { barsOf, spreadOf } from './spread';

describe('the spread of a class', () => {
  it('is that of Anscombe’s first set', () => {
    // Anscombe, Graphs in statistical analysis (1973): means 9 and 7.50, variances 11 and 4.13; from memory.
    const x = spreadOf([10, 8, 13, 9, 11, 14, 6, 4, 12, 7, 5]);
    expect(x).toMatchObject({ of: 11, mean: 9, median: 9, least: 4, most: 14 });
    expect((x?.deviation ?? 0) ** 2).toBeCloseTo(11, 10);
    const y = spreadOf([8.04, 6.95, 7.58, 8.81, 8.33, 9.96, 7.24, 4.26, 10.84, 4.82, 5.68]);
    expect(y?.mean).toBeCloseTo(7.5, 2);
    expect((y?.deviation ?? 0) ** 2).toBeCloseTo(4.13, 2);
  });

  it('agrees with simple-statistics, whatever is given, and says nothing of none', () => {
    expect(spreadOf([])).toBeNull();
    expect(spreadOf([3])).toMatchObject({ mean: 3, quartiles: [3, 3], deviation: null });
    const some = fc.array(
      fc.integer({ min: 0, max: 80 }).map((n) => n / 4),
      { minLength: 2 },
    );
    fc.assert(
      fc.property(some, (points) => {
        const spread = spreadOf(points);
        expect(spread?.quartiles).toEqual([
          statistics.quantile(points, 0.25),
          statistics.quantile(points, 0.75),
        ]);
        expect(spread?.median).toBe(statistics.quantile(points, 0.5));
        expect(spread?.mean).toBeCloseTo(statistics.sum(points) / points.length, 9);
      }),
    );
  });
});

describe('bars', () => {
  it('hold every copy once, in few bars', () => {
    const asked = fc.record({
      points: fc.array(fc.integer({ min: 0, max: 400 }).map((n) => `${n / 4}`)),
      most: fc.option(fc.integer({ min: 0, max: 500 }).map(String), { nil: null }),
    });
    fc.assert(
      fc.property(asked, ({ points, most }) => {
        const bars = barsOf(points, (one) => one, most);
        expect(bars.flatMap((bar) => bar.in).sort()).toEqual([...points].sort());
        expect(bars.length).toBeLessThanOrEqual(12);
      }),
    );
  });

  it('begin and end where points do', () => {
    const labels = (most: string) =>
      barsOf(['0', '9.5', '10'], (one) => one, most).map((bar) => [bar.label, bar.in.length]);
    expect(labels('10')).toEqual([
      ['0 to under 1', 1],
      ...[1, 2, 3, 4, 5, 6, 7, 8].map((n) => [`${n} to under ${n + 1}`, 0]),
      ['9 to 10', 2],
    ]);
    // More than the assignment counts for is shown, too.
    expect(labels('5').at(-1)).toEqual(['9 to 10', 2]);
    expect(barsOf([], () => '0', null)).toEqual([]);
  });
});
