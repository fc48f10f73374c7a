import { describe, expect, it } from 'vitest';
import { keyChanges, sayKey } from './key-changes';
import type { AnswerKey } from './answer-key';

const number = (value: string): AnswerKey => ({ kind: 'number', value, tolerance: '', unit: 'm' });

describe('the keys of an adapted page', () => {
  it('are told of what changed in its original, and is not there already', () => {
    const was = { a: number('1'), b: number('1'), c: number('1') };
    const is = { a: number('2'), b: number('2'), d: number('4'), e: number('5') };
    const mine = { a: number('1'), b: number('2'), c: number('7') };
    expect(
      keyChanges(was, is, mine, ['a', 'b', 'c', 'd']).map((one) => [one.part, one.is, one.mine]),
    ).toEqual([
      ['a', number('2'), number('1')],
      ['c', null, number('7')],
      ['d', number('4'), null],
    ]);
    // As the database gives it back, in another order.
    const turned = { a: { unit: 'm', value: '2', tolerance: '', kind: 'number' as const } };
    expect(keyChanges(was, is, turned, ['a'])).toEqual([]);
  });

  it('are said in words', () => {
    expect(sayKey(number('2.5'), new Map())).toBe('2.5 m');
    expect(sayKey({ kind: 'number', value: '2', tolerance: '0.1', unit: '' }, new Map())).toBe(
      '2 ± 0.1',
    );
    expect(sayKey({ kind: 'short', accepted: ['ebb', 'the ebb'] }, new Map())).toBe(
      '“ebb” or “the ebb”',
    );
    const choice: AnswerKey = { kind: 'choice', right: ['x', 'y'] };
    expect(
      sayKey(
        choice,
        new Map([
          ['x', 'north'],
          ['y', 'east'],
        ]),
      ),
    ).toBe('“north” and “east”');
    expect(sayKey(choice, new Map())).toBe('2 choices');
    expect(sayKey(null, new Map())).toBe('nothing');
  });
});
