import { describe, expect, it } from 'vitest';
import { areEqual, settledScore, sideBySide, WHOLE, type OneScore } from './settle';

const table = {
  levels: [4, 3, 2, 1],
  criteria: ['aim', 'evidence'].map((id) => ({ id, title: id, descriptors: ['', '', '', ''] })),
};
const rubric = { id: 'b4a5a8f0-4d3c-4a39-9d0c-9d1f0a0f7f6e', title: 'Report', version: 2, table };
const byRubric = (
  aim: string,
  evidence: string,
  words = '',
  points: string | null = null,
): OneScore => ({
  points,
  rubric: { points: `${Number(aim) + Number(evidence)}`, most: '8' },
  checked: null,
  scoring: {
    rubric,
    criteria: [
      { id: 'aim', points: aim, words },
      { id: 'evidence', points: evidence, words: '' },
    ],
    overruled: points === null ? null : { points, reason: 'It came late.' },
  },
});
const typed = (points: string): OneScore => ({
  points,
  rubric: null,
  scoring: null,
  checked: null,
});
const part = (id: string, number: number, points: string, given?: string) => ({
  id,
  number,
  label: id,
  answer: '',
  verdict: 'right' as const,
  most: '2',
  points,
  ...(given && { given: { points: given, reason: `${given}, as the unit is missing` } }),
});
const byParts = (...parts: ReturnType<typeof part>[]): OneScore => ({
  points: null,
  rubric: { points: '0', most: '4' },
  scoring: null,
  checked: { parts },
});

describe('settling what two gave', () => {
  it('goes criterion by criterion, with the half step or level between them where there is one', () => {
    const two = [byRubric('4', '2', 'Clear.'), byRubric('3', '2', 'Clear.')] as const;
    const [aim, evidence] = sideBySide(two, '8');
    expect(aim).toMatchObject({ points: ['4', '3'], steps: [3, 2], options: ['4', '3', '3.5'] });
    expect(evidence && areEqual(evidence)).toBe(true);
    expect(settledScore(two, {}, '8')).toBeNull();
    expect(settledScore(two, { aim: '3.5' }, '8')).toEqual({
      scoring: {
        criteria: [
          { id: 'aim', points: '3.5', words: 'Clear.' },
          { id: 'evidence', points: '2', words: '' },
        ],
        overruled: null,
      },
      rubric: { id: rubric.id, version: 2 },
    });
    // A half step and its neighbour have nothing between them.
    expect(sideBySide([byRubric('3.5', '2'), byRubric('3', '2')], '8')[0]?.options).toEqual([
      '3.5',
      '3',
    ]);
  });

  it('asks whether the rubric’s points are overruled where one did', () => {
    const two = [byRubric('4', '2', '', '5'), byRubric('4', '2')] as const;
    expect(sideBySide(two, '8').at(-1)).toMatchObject({ id: WHOLE, points: ['5', '6'] });
    expect(settledScore(two, { [WHOLE]: '6' }, '8')).toMatchObject({
      scoring: { overruled: null },
    });
    expect(settledScore(two, { [WHOLE]: '5' }, '8')).toMatchObject({
      scoring: { overruled: { points: '5', reason: 'It came late.' } },
    });
  });

  it('goes part by part, with the reason of whoever gave what counts', () => {
    const two = [
      byParts(part('a', 1, '2', '1'), part('b', 2, '2')),
      byParts(part('a', 1, '2'), part('b', 2, '2')),
    ] as const;
    const [first] = sideBySide(two, '4');
    expect(first).toMatchObject({
      label: 'Part 1',
      points: ['1', '2'],
      options: ['1', '2', '1.5'],
    });
    expect(settledScore(two, { a: '1' }, '4')).toEqual({
      parts: { a: { points: '1', reason: '1, as the unit is missing' } },
    });
    expect(settledScore(two, { a: '2' }, '4')).toEqual({ parts: {} });
    expect(settledScore(two, { a: '1.5' }, '4')).toEqual({
      parts: { a: { points: '1.5', reason: 'In the middle of what two markers gave.' } },
    });
  });

  it('is about the points of the whole where two marked in different manners, or typed them', () => {
    expect(settledScore([typed('6'), typed('7.5')], { [WHOLE]: '6.75' }, '8')).toEqual({
      points: '6.75',
    });
    expect(sideBySide([typed('6'), byRubric('4', '3')], '16')).toMatchObject([
      { id: WHOLE, points: ['6', '14'], options: ['6', '14', '10'] },
    ]);
    expect(settledScore([typed('6'), typed('6')], {}, '8')).toEqual({ points: '6' });
  });
});
