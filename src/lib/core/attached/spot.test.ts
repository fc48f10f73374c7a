import { describe, expect, it } from 'vitest';
import { sayMoment, saySpot, Spot } from './spot';

describe('a place on something attached', () => {
  it('is said in words', () => {
    expect(saySpot({ kind: 'whole' }, 'a.png')).toBe('a.png');
    expect(saySpot({ kind: 'point', page: null, x: 0, y: 1 }, 'a.png')).toBe('a point of a.png');
    expect(saySpot({ kind: 'point', page: 2, x: 0, y: 1 }, 'a.pdf')).toBe('a.pdf, page 2');
    expect(saySpot({ kind: 'moment', seconds: 65.9 }, 'a.mp3')).toBe('a.mp3 at 1:05');
    expect([0, 59.99, 60, 3599, 3723].map(sayMoment)).toEqual([
      '0:00',
      '0:59',
      '1:00',
      '59:59',
      '1:02:03',
    ]);
  });

  it('lies within what it is on', () => {
    for (const spot of [
      { kind: 'point', page: null, x: 1.01, y: 0 },
      { kind: 'point', page: 0, x: 0, y: 0 },
      { kind: 'moment', seconds: -1 },
      { kind: 'point', page: 1, x: NaN, y: 0 },
      { kind: 'elsewhere' },
    ])
      expect(Spot.safeParse(spot).success).toBe(false);
  });
});
