import { expect, it } from 'vitest';
import { away, lengthOf, sayDate, when } from './say-time';

const MINUTE = 60_000;
const at = (text: string) => Date.parse(text);

it.each([
  [0, '0 mins'],
  [MINUTE, '1 min'],
  [125 * MINUTE, '2 hrs 5 mins'],
  [1440 * MINUTE + 21 * 60 * MINUTE, '1 day 21 hrs'],
  [3 * 1440 * MINUTE, '3 days'],
])('%d ms is %s', (length, words) => {
  expect(lengthOf(length)).toBe(words);
});

it('says a time by how near it is, on the clock of its zone', () => {
  const now = at('2026-10-14T10:00:00Z');
  expect(when(at('2026-10-14T13:20:00Z'), now, 'Europe/Oslo')).toBe('15:20');
  expect(when(at('2026-10-15T10:40:00Z'), now, 'Europe/Oslo')).toBe('Thu 12:40');
  expect(when(at('2026-10-07T10:40:00Z'), now, 'Europe/Oslo')).toBe('7 Oct 12:40');
  expect(away(now + 40 * MINUTE, now)).toBe('in 40 mins');
  expect(away(now - 48 * 60 * MINUTE, now)).toBe('2 days ago');
});

it('says a day as much as is asked of it', () => {
  expect(sayDate('2026-10-23')).toBe('23 Oct');
  expect(sayDate('2026-10-23', { weekday: true, year: true })).toBe('Fri 23 Oct 2026');
});
