import Decimal from 'decimal.js';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Part } from '../page/parts';
import type { AnswerKey } from './answer-key';
import { checkAnswer } from './check-answer';
import { morePointsThanAsked, readPoints, writePoints } from './points';

describe('points', () => {
  it.each([
    ['6', '6'],
    ['6½', '6.5'],
    ['½', '0.5'],
    ['6,5', '6.5'],
    [' 7.25 ', '7.25'],
    ['0', '0'],
    ['¾', '0.75'],
    ['3 ½', '3.5'],
    ['1/2', '0.5'],
    ['3 1/2', '3.5'],
    ['７½', '7.5'],
  ])('reads %s', (text, points) => expect(readPoints(text)).toBe(points));
  it.each(['', 'six', '1/3', '3/2', '1/0', '31/2', '-1', '6.555', '1e3', '6½½', '9999999'])(
    'does not take “%s”',
    (text) => expect(readPoints(text)).toBeNull(),
  );
  it('are written as they are read', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 99_999_999 }), (hundredths) => {
        const points = new Decimal(hundredths).div(100).toString();
        expect(readPoints(writePoints(points))).toBe(points);
      }),
    );
  });
  it('may be more than asked, but it is said', () => {
    expect(morePointsThanAsked('10.5', '10')).toBe('10½ is more than the 10 this assignment has.');
    expect(morePointsThanAsked('10', '10')).toBeNull();
    expect(morePointsThanAsked('10', null)).toBeNull();
  });
});

describe('checking an answer', () => {
  const part = (kind: Part['kind'], answer: string, chosen: string[] = []): Part => ({
    chosen,
    id: 'p',
    number: 1,
    label: '',
    kind,
    answer,
    done: true,
    detail: '',
  });
  const height = (value: string): AnswerKey => ({
    kind: 'number',
    value,
    tolerance: '0.05',
    unit: 'm',
  });

  // The rule of twelfths, 1-2-3-3-2-1 twelfths of the range an hour (common practice, no source): low water 0.8 m,
  // high water 4.4 m.
  it('agrees with the rule of twelfths worked out in whole twelfths', () => {
    const twelfth = new Decimal('4.4').minus('0.8').div(12);
    let risen = new Decimal('0.8');
    for (const [i, twelfths] of [1, 2, 3, 3, 2, 1].entries()) {
      risen = risen.plus(twelfth.times(twelfths));
      const shown = ['1.1', '1.7', '2.6', '3.5', '4.1', '4.4'][i] ?? '';
      expect(checkAnswer(part('number', shown), height(risen.toString()))).toBe('right');
      expect(checkAnswer(part('number', `${shown} km`), height(risen.toString()))).toBe('wrong');
    }
    expect(checkAnswer(part('number', '4.0'), height('4.1'))).toBe('wrong');
  });

  it('takes both ends of the tolerance, exactly', () => {
    expect(checkAnswer(part('number', '0.35'), height('0.3'))).toBe('right');
    expect(checkAnswer(part('number', '0,25 m'), height('0.3'))).toBe('right');
    expect(checkAnswer(part('number', '0.351'), height('0.3'))).toBe('wrong');
    expect(checkAnswer(part('number', 'about three'), height('0.3'))).toBe('unreadable');
  });

  it('takes another unit of its kind by what it comes to, unless the key wants this one', () => {
    expect(checkAnswer(part('number', '260 cm'), height('2.6'))).toBe('right');
    expect(checkAnswer(part('number', '265 cm'), height('2.6'))).toBe('right');
    expect(checkAnswer(part('number', '266 cm'), height('2.6'))).toBe('wrong');
    expect(checkAnswer(part('number', '2.6 kg'), height('2.6'))).toBe('wrong unit');
    const only = { ...height('2.6'), onlyUnit: true } as AnswerKey;
    expect(checkAnswer(part('number', '260 cm'), only)).toBe('wrong unit');
    expect(checkAnswer(part('number', '2.6 M'), only)).toBe('right');
  });

  it('reads digits as people’s machines write them', () => {
    expect(checkAnswer(part('number', '２．６ｍ'), height('2.6'))).toBe('right');
    expect(checkAnswer(part('number', '\u200b2.6\u200d m'), height('2.6'))).toBe('right');
    expect(checkAnswer(part('number', '26e-1'), height('2.6'))).toBe('right');
    expect(checkAnswer(part('number', '1e1000'), height('2.6'))).toBe('unreadable');
    expect(checkAnswer(part('number', '1e999'), height('2.6'))).toBe('wrong');
  });

  it('compares texts without regard to case and spacing', () => {
    const key: AnswerKey = { kind: 'short', accepted: ['S for sand'] };
    expect(checkAnswer(part('short', ' s  FOR sand '), key)).toBe('right');
    expect(checkAnswer(part('short', 'mud'), key)).toBe('wrong');
    expect(checkAnswer(part('short', ''), key)).toBeNull();
  });

  it('needs all and only the right choices', () => {
    const key: AnswerKey = { kind: 'choice', right: ['a', 'c'] };
    expect(checkAnswer(part('choice', 'x', ['c', 'a']), key)).toBe('right');
    expect(checkAnswer(part('choice', 'x', ['a']), key)).toBe('wrong');
    expect(checkAnswer(part('choice', 'x', ['a', 'b', 'c']), key)).toBe('wrong');
    expect(checkAnswer(part('choice', '', []), key)).toBeNull();
  });

  it('of pieces is right when each stands where it belongs; those that belong nowhere do not matter', () => {
    const key = { kind: 'pieces', places: { mole: 's2', light: 's1' } } as const;
    const placed = (...chosen: string[]) => checkAnswer(part('drawing', '', chosen), key);
    expect(placed('mole@s2', 'light@s1')).toBe('right');
    expect(placed('mole@s2', 'light@s1', 'boat@s3')).toBe('right');
    expect(placed('mole@s1', 'light@s2')).toBe('wrong');
    expect(placed('mole@s2')).toBe('wrong');
    expect(placed()).toBeNull();
  });
});
