import { mean, sampleStandardDeviation } from 'simple-statistics';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { itemFigures, sayDiscrimination } from './item-figures';

const right = (some: string) => [...some].map((sign) => (sign === '-' ? null : Number(sign)));

describe('the figures of an item', () => {
  it('are its facility and how it goes with the rest', () => {
    // Ten copies, three items. The first: 7 of 10 right. By hand: rest of each copy is the mean of the other two.
    const scores = ['111', '111', '111', '110', '101', '110', '101', '001', '000', '000'].map(
      right,
    );
    const [first] = itemFigures(scores);
    expect(first?.facility).toBeCloseTo(0.7, 12);
    expect(first?.of).toBe(10);
    const rest = [1, 1, 1, 0.5, 0.5, 0.5, 0.5, 0.5, 0, 0];
    const one = mean(rest.slice(0, 7));
    const zero = mean(rest.slice(7));
    // The point-biserial formula of the handbooks (Lord and Novick 1968; from memory), for a sample:
    // (M1 − M0) / s · √(n1 n0 / (n (n − 1)))
    const byHand = ((one - zero) / sampleStandardDeviation(rest)) * Math.sqrt((7 * 3) / (10 * 9));
    expect(first?.discrimination).toBeCloseTo(byHand, 12);
    expect(first && sayDiscrimination(first)).toBe(
      'those who did well on the rest did well here, too',
    );
  });

  it('are those of the Law School Admission Test’s section 6', () => {
    // How many of 1,000 had which of five items right: Bock and Lieberman, Fitting a response model for n dichotomously scored
    // items (1970). Facilities as printed there; correlations, without the item itself, as descript(LSAT) of R’s package ltm
    // prints them: it divides by the deviation of a sample, so they are smaller by √(999/1000). Table and figures from memory.
    const counts = [
      3, 6, 2, 11, 1, 1, 3, 4, 1, 8, 0, 16, 0, 3, 2, 15, 10, 29, 14, 81, 3, 28, 15, 80, 16, 56, 21,
      173, 11, 61, 28, 298,
    ];
    const scores = counts.flatMap((count, pattern) =>
      Array.from({ length: count }, () => right(pattern.toString(2).padStart(5, '0'))),
    );
    expect(scores).toHaveLength(1000);
    const figures = itemFigures(scores);
    expect(figures.map((one) => one?.facility)).toEqual([0.924, 0.709, 0.553, 0.763, 0.87]);
    const printed = figures.map((one) => (one?.discrimination ?? 0) * Math.sqrt(999 / 1000));
    expect(printed.map((one) => one.toFixed(4))).toEqual([
      '0.1128',
      '0.1531',
      '0.1727',
      '0.1444',
      '0.1215',
    ]);
  });

  it('are none of what nobody has, and say little of few', () => {
    expect(itemFigures([])).toEqual([]);
    expect(itemFigures([[null, 1]])).toEqual([null, { facility: 1, discrimination: null, of: 1 }]);
    const alike = itemFigures(Array.from({ length: 12 }, () => [1, 0]))[0];
    expect(alike).toEqual({ facility: 1, discrimination: null, of: 12 });
    expect(alike && sayDiscrimination(alike)).toBe('nothing to say: all did alike');
    // An item that only the weaker know is turned round.
    const turned = itemFigures(
      ['011', '011', '011', '011', '011', '100', '100', '100', '100', '100'].map(right),
    )[0];
    expect(turned?.discrimination).toBeCloseTo(-1, 12);
    expect(turned && sayDiscrimination(turned)).toContain('look at the question');
  });

  it('stay within their bounds, whatever is missing', () => {
    const share = fc.option(fc.constantFrom(0, 0.5, 1), { nil: null });
    const table = fc.array(fc.tuple(share, share, share, share), { maxLength: 40 });
    fc.assert(
      fc.property(table, (scores) => {
        for (const one of itemFigures(scores)) {
          if (!one) continue;
          expect(one.facility).toBeGreaterThanOrEqual(0);
          expect(one.facility).toBeLessThanOrEqual(1);
          expect(Math.abs(one.discrimination ?? 0)).toBeLessThanOrEqual(1 + 1e-9);
        }
      }),
    );
  });
});
