import { describe, expect, it } from 'vitest';
import { backOff } from './back-off';

describe('waiting before another try', () => {
  it('doubles to half a minute, spread over its second half', () => {
    expect([1, 2, 3, 7, 50].map((failures) => backOff(failures, 1))).toEqual([
      500, 1000, 2000, 30_000, 30_000,
    ]);
    expect(backOff(1, 0)).toBe(250);
    expect(backOff(9, 0)).toBe(15_000);
  });
});
