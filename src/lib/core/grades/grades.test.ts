import Decimal from 'decimal.js';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { gradeLine, weightsOf, type GradedWork } from './grade-line';
import { PLAIN_RULES, type GradeRules } from './rules';
import { sayCategorySum, sayShare, sayTotal } from './say-grades';

let count = 0;
const work = (
  category: string,
  most: string,
  got: GradedWork['got'] | string,
  counting: GradedWork['counting'] = 'yes',
): GradedWork => ({
  id: `w${++count}`,
  title: `Work ${count}`,
  category,
  most,
  counting,
  got:
    got === 'missing' || got === 'excused' || got === 'open' || typeof got === 'object'
      ? got
      : { points: got },
});
const rules = (more: Partial<GradeRules> = {}): GradeRules => ({
  ...PLAIN_RULES,
  total: 'weights',
  places: 2,
  categories: [
    { name: 'tasks', weight: '40', drop: 0 },
    { name: 'tests', weight: '60', drop: 0 },
  ],
  ...more,
});

/** Worked by hand (common practice, no source): tasks 40 %, tests 60 %. */
describe('the worked example', () => {
  const done = [
    work('tasks', '10', '7.5'),
    work('tasks', '20', '16'),
    work('tasks', '20', 'excused'),
    work('tests', '20', '14'),
  ];
  const missing = work('tasks', '10', 'missing');
  const total = (some: GradeRules, all: readonly GradedWork[]) =>
    sayTotal(some, gradeLine(some, all));

  it('comes to 23.5 of 30, 70 % and 73.33 %; excused work counts nowhere', () => {
    const line = gradeLine(rules(), done);
    expect(line.categories.map((one) => sayCategorySum(one, 2))).toEqual([
      '23½ of 30 = 78.33 %',
      '14 of 20 = 70.00 %',
    ]);
    expect(total(rules(), done)).toBe('(40 × 78.33 % + 60 × 70.00 %) ÷ 100 = 73.33 %');
  });
  it('comes to 58.75 % and 65.5 % with a missing task as zero', () => {
    const zero = rules({ missing: 'zero' });
    const line = gradeLine(zero, [...done, missing]);
    expect(sayCategorySum(line.categories[0] ?? line.sum, 2)).toBe('23½ of 40 = 58.75 %');
    expect(sayShare(line.total ?? '', 2)).toBe('65.50 %');
  });
  it('comes to 73.33 % again with the lowest task dropped, or with missing work left empty', () => {
    const dropping = rules({
      missing: 'zero',
      categories: [
        { name: 'tasks', weight: '40', drop: 1 },
        { name: 'tests', weight: '60', drop: 0 },
      ],
    });
    const line = gradeLine(dropping, [...done, missing]);
    expect(sayShare(line.total ?? '', 2)).toBe('73.33 %');
    expect(line.categories[0]?.work.find(({ why }) => why === 'dropped')?.work).toBe(missing);
    expect(total(rules(), [...done, missing])).toMatch(/73\.33 %$/);
  });
  it('comes to 37.5 of 50 = 75 % by points', () => {
    expect(total(rules({ total: 'points' }), done)).toBe('37½ of 50 = 75.00 %');
  });
});

describe('what counts', () => {
  it('is weighed over the categories in which anything counts yet', () => {
    const line = gradeLine(rules(), [work('tasks', '10', '9'), work('tests', '20', 'open')]);
    expect([line.weights, sayShare(line.total ?? '', 1)]).toEqual(['40', '90.0 %']);
  });
  it('are extra points in what is earned only, and never alone', () => {
    const extra = [work('tasks', '10', '9'), work('tasks', '5', '2', 'extra')];
    expect(sayCategorySum(gradeLine(rules(), extra).sum, 0)).toBe('11 of 10 = 110 %');
    expect(gradeLine(rules(), [work('tests', '5', '2', 'extra')]).total).toBeNull();
    expect(
      gradeLine(rules({ missing: 'zero' }), [work('tasks', '5', 'missing', 'extra')]).total,
    ).toBeNull();
  });
  it('is nothing that the class does not count, nor by weights what is in no category', () => {
    const line = gradeLine(rules(), [
      work('tasks', '10', '5'),
      work('tasks', '10', '0', 'no'),
      work('songs', '9', '0'),
    ]);
    expect(sayShare(line.total ?? '', 0)).toBe('50 %');
    expect(line.categories.map(({ name, counts }) => [name, counts])).toEqual([
      ['tasks', true],
      ['', false],
    ]);
    const points = gradeLine(rules({ total: 'points' }), [
      work('tasks', '10', '5'),
      work('', '10', '10'),
    ]);
    expect(sayShare(points.total ?? '', 0)).toBe('75 %');
  });
  it('always is one piece of work, however many are dropped', () => {
    const dropping = rules({ categories: [{ name: 'tasks', weight: '40', drop: 5 }] });
    const line = gradeLine(dropping, [work('tasks', '10', '2'), work('tasks', '10', '8')]);
    expect(sayShare(line.total ?? '', 0)).toBe('80 %');
  });
  it('is graded by the exact total, not by what is shown of it', () => {
    const scale = [
      { from: '90', grade: 'A' },
      { from: '0', grade: 'C' },
      { from: '75', grade: 'B' },
    ];
    const of = (points: string) => {
      const some = rules({ total: 'points', places: 0, scale });
      const line = gradeLine(some, [work('', '1000', points)]);
      return [sayShare(line.total ?? '', 0), line.grade];
    };
    expect([of('900'), of('899.5'), of('750'), of('0')]).toEqual([
      ['90 %', 'A'],
      ['90 %', 'B'],
      ['75 %', 'B'],
      ['0 %', 'C'],
    ]);
  });
  it('says what weights add up to', () => {
    expect(weightsOf(rules())).toBe('100');
    expect(weightsOf(rules({ categories: [{ name: 'a', weight: '33.3', drop: 0 }] }))).toBe('33.3');
  });
});

/** Whole fractions, for a reference that shares nothing with the code: numerator and denominator. */
type Fraction = [bigint, bigint];
const add = ([a, b]: Fraction, [c, d]: Fraction): Fraction => [a * d + c * b, b * d];
const hundredths = (text: string): bigint => BigInt(new Decimal(text).times(100).toFixed(0));

describe('totals of random classes', () => {
  const points = fc.integer({ min: 0, max: 5000 }).map((n) => new Decimal(n).div(100).toString());
  const most = fc.integer({ min: 1, max: 5000 }).map((n) => new Decimal(n).div(100).toString());
  const some = fc.array(
    fc.record({
      category: fc.constantFrom('tasks', 'tests', 'other'),
      most,
      got: fc.oneof(points, fc.constantFrom('missing', 'excused', 'open')),
    }),
    { maxLength: 12 },
  );

  it('agree with whole fractions, to the last digit that is shown, half up', () => {
    fc.assert(
      fc.property(some, fc.constantFrom('empty' as const, 'zero' as const), (all, missing) => {
        const counted = all.filter(
          ({ got }) =>
            got !== 'excused' && got !== 'open' && (got !== 'missing' || missing === 'zero'),
        );
        const own = (name: string) => counted.filter(({ category }) => category === name);
        let sum: Fraction = [0n, 1n];
        let weights = 0n;
        for (const [name, weight] of [
          ['tasks', 40n],
          ['tests', 60n],
        ] as const) {
          const earned = own(name).reduce(
            (n, { got }) => n + (got === 'missing' ? 0n : hundredths(got)),
            0n,
          );
          const possible = own(name).reduce((n, one) => n + hundredths(one.most), 0n);
          if (possible === 0n) continue;
          sum = add(sum, [weight * earned, possible]);
          weights += weight;
        }
        const line = gradeLine(
          rules({ missing }),
          all.map((one) => work(one.category, one.most, one.got)),
        );
        if (weights === 0n) {
          expect(line.total).toBeNull();
          return;
        }
        const [above, below] = [sum[0] * 10_000n, sum[1] * weights];
        const shown = (2n * above + below) / (2n * below);
        expect(sayShare(line.total ?? '', 2)).toBe(
          `${new Decimal(shown.toString()).div(100).toFixed(2)} %`,
        );
      }),
    );
  });
});
