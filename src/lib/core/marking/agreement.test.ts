import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { agreementOf, kappaOf, LINEAR, QUADRATIC, sayKappa, type Pair } from './agreement';

/** The pairs of a table: rows are the first one's values, columns the second one's. */
const pairsOf = (table: readonly (readonly number[])[]): Pair[] =>
  table.flatMap((row, a) =>
    row.flatMap((count, b) => Array.from({ length: count }, () => [a, b] as const)),
  );

// The tables and figures are cited from memory.
describe('Cohen’s kappa', () => {
  it('is that of Fleiss, Statistical Methods for Rates and Proportions (1981), table 13.1: 0.68', () => {
    const table = [
      [75, 1, 4],
      [5, 4, 1],
      [0, 0, 10],
    ];
    expect(kappaOf(pairsOf(table))).toBeCloseTo(0.676, 3);
  });

  it('is that of Artstein and Poesio, Inter-Coder Agreement for Computational Linguistics (2008): 0.348', () => {
    const table = [
      [20, 20],
      [10, 50],
    ];
    expect(kappaOf(pairsOf(table))).toBeCloseTo(0.348, 3);
  });

  it('is, plain and with linear weights, what the vcd package of R gives for the table of Agresti, Categorical Data Analysis', () => {
    // "Sex is fun", 91 married couples: Kappa(SexualFun) prints 0.1293 unweighted and 0.2374 weighted.
    const table = [
      [7, 7, 2, 3],
      [2, 8, 3, 7],
      [1, 5, 4, 9],
      [2, 8, 9, 14],
    ];
    const pairs = pairsOf(table);
    expect(pairs).toHaveLength(91);
    expect(kappaOf(pairs)).toBeCloseTo(0.1293, 4);
    expect(kappaOf(pairs, LINEAR)).toBeCloseTo(0.2374, 4);
  });

  it('is with each weighting what scikit-learn tests its own with: 0.9315, 0.9412, 0.9541', () => {
    const first = [
      ...Array<number>(46).fill(0),
      ...Array<number>(44).fill(1),
      ...Array<number>(10).fill(2),
    ];
    const second = [
      ...Array<number>(50).fill(0),
      ...Array<number>(40).fill(1),
      ...Array<number>(10).fill(2),
    ];
    const pairs = first.map((a, index): Pair => [a, second[index] ?? 0]);
    expect(kappaOf(pairs)).toBeCloseTo(0.9315, 4);
    expect(kappaOf(pairs, LINEAR)).toBeCloseTo(0.9412, 4);
    expect(kappaOf(pairs, QUADRATIC)).toBeCloseTo(0.9541, 4);
  });

  it('says nothing where both always gave the same', () => {
    expect(kappaOf([])).toBeNull();
    const same: Pair[] = [
      [3, 3],
      [3, 3],
    ];
    expect(agreementOf(same)).toMatchObject({ equal: 1, kappa: null, weighted: null });
    expect(sayKappa(null, 2)).toContain('both gave the same');
  });

  it('is the same whoever is first, whatever the scale begins with, and never over 1', () => {
    const step = fc.integer({ min: 0, max: 8 }).map((half) => half / 2);
    fc.assert(
      fc.property(fc.array(fc.tuple(step, step), { minLength: 1, maxLength: 40 }), (pairs) => {
        for (const weight of [LINEAR, QUADRATIC, undefined]) {
          const kappa = kappaOf(pairs, weight);
          if (kappa === null) continue;
          expect(kappa).toBeLessThanOrEqual(1);
          expect(
            kappaOf(
              pairs.map(([a, b]) => [b, a] as const),
              weight,
            ),
          ).toBeCloseTo(kappa, 9);
          expect(
            kappaOf(
              pairs.map(([a, b]) => [a + 3, b + 3] as const),
              weight,
            ),
          ).toBeCloseTo(kappa, 9);
        }
      }),
    );
  });
});

describe('the agreement of two markers', () => {
  it('counts what is equal, and what is within half a step', () => {
    const pairs: Pair[] = [
      [3, 3],
      [3, 2.5],
      [2, 3],
      [4, 4],
    ];
    expect(agreementOf(pairs)).toMatchObject({ of: 4, equal: 0.5, near: 0.75 });
    expect(agreementOf([])).toBeNull();
  });

  it('has words for a kappa', () => {
    expect([-0.1, 0, 0.2, 0.21, 0.6, 0.61, 1].map((kappa) => sayKappa(kappa, 20))).toEqual([
      'no better than chance',
      'no better than chance',
      'slight',
      'fair',
      'moderate',
      'substantial',
      'almost perfect',
    ]);
    expect(sayKappa(0.5, 4)).toBe('moderate, of few copies');
  });
});
