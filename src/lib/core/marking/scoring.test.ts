import Decimal from 'decimal.js';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { RubricTable } from './rubric';
import { pointsOf } from './kept-score';
import { scoringFault } from './scoring';
import { stepsOf, sumOf } from './rubric-steps';

const table = (levels: number[], ...ids: string[]): RubricTable => ({
  levels,
  criteria: ids.map((id) => ({ id, title: id, descriptors: levels.map(() => '') })),
});
const scored = (id: string, points: string | null) => ({ id, points, words: '' });

describe('the steps of a rubric', () => {
  it('are its levels and the means of neighbours, whatever their order', () => {
    const points = (levels: number[]) => stepsOf(table(levels)).map((step) => step.points);
    expect(points([4, 3, 2, 1])).toEqual(['1', '1.5', '2', '2.5', '3', '3.5', '4']);
    expect(points([0, 5, 20])).toEqual(['0', '2.5', '5', '12.5', '20']);
    expect(points([7])).toEqual(['7']);
    expect(stepsOf(table([4, 0])).map((step) => step.levels)).toEqual([[1], [1, 0], [0]]);
  });
  it('rise, and none stands for two', () => {
    const levels = fc.uniqueArray(fc.integer({ min: 0, max: 1000 }), {
      minLength: 1,
      maxLength: 12,
    });
    fc.assert(
      fc.property(levels, (some) => {
        const points = stepsOf(table(some)).map((step) => new Decimal(step.points));
        expect(points).toHaveLength(2 * some.length - 1);
        for (const [at, one] of points.entries())
          if (at > 0) expect(one.gt(points[at - 1] ?? 0)).toBe(true);
      }),
    );
  });
});

describe('a scoring', () => {
  // Common practice, no source: the sum over the criteria, of the sum of the highest levels.
  it('comes to the sum of its criteria', () => {
    const rubric = table([0, 1, 2, 3, 4], 'heights', 'method', 'judgement', 'wording');
    const criteria = [scored('heights', '3.5'), scored('method', '4'), scored('judgement', '2')];
    expect(sumOf(rubric, criteria)).toEqual({ points: '9.5', most: '16', left: 1 });
    expect(sumOf(rubric, [...criteria, scored('wording', null)]).left).toBe(1);
    expect(sumOf(rubric, [...criteria, scored('wording', '0')])).toEqual({
      points: '9.5',
      most: '16',
      left: 0,
    });
  });
  it('agrees with decimal.js, and with whole numbers counted in halves', () => {
    const steps = stepsOf(table([0, 1, 2, 3]));
    fc.assert(
      fc.property(fc.array(fc.nat({ max: 6 }), { minLength: 1, maxLength: 20 }), (chosen) => {
        const ids = chosen.map((_, index) => `c${index}`);
        const criteria = chosen.map((at, index) => scored(`c${index}`, steps[at]?.points ?? null));
        const halves = chosen.reduce((sum, at) => sum + at, 0);
        const sum = sumOf(table([0, 1, 2, 3], ...ids), criteria);
        expect(sum.points).toBe(new Decimal(halves).div(2).toString());
      }),
    );
  });
  it('takes steps of the scale, for criteria of the rubric, each once', () => {
    const rubric = table([0, 2], 'a', 'b');
    const fault = (...criteria: ReturnType<typeof scored>[]) =>
      scoringFault(rubric, { criteria, overruled: null });
    expect(fault(scored('a', '1'), scored('b', '2.00'))).toBeNull();
    expect(fault(scored('a', '1.5'))).toMatch('half-way');
    expect(fault(scored('c', null))).toMatch('no such criterion');
    expect(fault(scored('a', null), scored('a', '2'))).toMatch('twice');
  });
});

describe('the points of a score', () => {
  const byRubric = (points: string, most: string) => ({ points: null, rubric: { points, most } });
  it('carry the share of a rubric into what the assignment counts for', () => {
    expect(pointsOf(byRubric('25', '50'), '10')).toBe('5');
    expect(pointsOf(byRubric('9.5', '16'), '16.00')).toBe('9.5');
    // Seven twelfths of ten are 5.8333…; an eighth of one is 0.125: half up.
    expect(pointsOf(byRubric('7', '12'), '10')).toBe('5.83');
    expect(pointsOf(byRubric('1', '8'), '1')).toBe('0.13');
    expect(pointsOf(byRubric('0', '0'), '10')).toBe('0');
  });
  it('are those that were typed, where some were; and none, where the assignment counts none', () => {
    expect(pointsOf({ points: '7', rubric: { points: '1', most: '2' } }, '10')).toBe('7');
    expect(pointsOf({ points: '7', rubric: null }, null)).toBe('7');
    expect(pointsOf(byRubric('25', '50'), null)).toBeNull();
    expect(pointsOf({ points: null, rubric: null }, '10')).toBeNull();
  });
});
