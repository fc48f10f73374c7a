import { describe, expect, it } from 'vitest';
import { goesOutNow } from './mail-times';

const quiet = { timeZone: 'Europe/Dublin', from: '19:00', to: '07:00' };
const at = (text: string) => Date.parse(text);

describe('e-mail', () => {
  it('is gathered for a while, and silent in the evening and at night', () => {
    const told = at('2026-10-14T09:00:00Z');
    expect(goesOutNow('gathered', told, at('2026-10-14T09:05:00Z'), quiet)).toBe(false);
    expect(goesOutNow('gathered', told, at('2026-10-14T09:10:00Z'), quiet)).toBe(true);
    // Summer time: 18:00 in UTC is 19:00 in Dublin.
    expect(goesOutNow('gathered', told, at('2026-10-14T17:59:00Z'), quiet)).toBe(true);
    expect(goesOutNow('gathered', told, at('2026-10-14T18:00:00Z'), quiet)).toBe(false);
    expect(goesOutNow('gathered', told, at('2026-10-15T05:59:00Z'), quiet)).toBe(false);
    expect(goesOutNow('gathered', told, at('2026-10-15T06:00:00Z'), quiet)).toBe(true);
    // The tz database: from 25 October 2026 on, Dublin is on UTC.
    expect(goesOutNow('gathered', told, at('2026-10-26T18:30:00Z'), quiet)).toBe(true);
    expect(goesOutNow('gathered', told, at('2026-10-26T06:30:00Z'), quiet)).toBe(false);
  });
  it('comes once a day, or never, for who wants it so', () => {
    const told = at('2026-11-02T10:00:00Z');
    expect(goesOutNow('daily', told, at('2026-11-02T15:00:00Z'), quiet)).toBe(false);
    expect(goesOutNow('daily', told, at('2026-11-03T07:00:00Z'), quiet)).toBe(true);
    expect(goesOutNow('never', told, at('2026-11-03T09:00:00Z'), quiet)).toBe(false);
  });
  it('knows quiet hours that do not go over midnight', () => {
    const day = { ...quiet, from: '12:00', to: '13:00' };
    expect(goesOutNow('gathered', 0, at('2026-11-03T12:30:00Z'), day)).toBe(false);
    expect(goesOutNow('gathered', 0, at('2026-11-03T13:00:00Z'), day)).toBe(true);
  });
});
