import { describe, expect, it } from 'vitest';
import { samplePairs, shareLeft, wordPairs } from './word-pairs';

describe('the word pairs of a text', () => {
  it('are those of neighbouring words, whatever stands between them and however they are set', () => {
    expect(wordPairs('The tide turns.').size).toBe(2);
    expect(wordPairs('the  TIDE, turns')).toEqual(wordPairs('The tide\nturns'));
    expect(wordPairs('').size).toBe(0);
    expect(wordPairs('tide').size).toBe(1);
    expect(wordPairs('潮 が 引く').size).toBe(2);
  });

  it('tell how much of a text still stands, as does a sample of them', () => {
    const words = Array.from({ length: 400 }, (_, i) => `w${(i * 7919) % 1009}`);
    const whole = wordPairs(words.join(' '));
    for (const share of [0, 0.1, 0.5, 0.9, 1]) {
      const left = wordPairs(words.slice(0, Math.round(share * 400)).join(' '));
      expect(shareLeft(whole, left)).toBeCloseTo(share, 1);
      expect(Math.abs(shareLeft(samplePairs(whole), left) - share)).toBeLessThan(0.2);
    }
    expect(shareLeft([], whole)).toBe(1);
  });
});
