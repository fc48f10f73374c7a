import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { readClock, readDay } from './read-typed';
import { sayDate } from './say-time';

const TODAY = '2026-11-26';

describe('a day as it is typed', () => {
  it.each([
    ['23/10/2026', '2026-10-23'],
    ['23.10.2026', '2026-10-23'],
    ['23-10-26', '2026-10-23'],
    ['3 9 2026', '2026-09-03'],
    ['2026-1-5', '2026-01-05'],
    ['23 Oct 2026', '2026-10-23'],
    ['23oct', '2026-10-23'],
    ['Fri 23 October 2026', '2026-10-23'],
    ['Friday, 23 sept. 26', '2026-09-23'],
    [' 29/2/2028 ', '2028-02-29'],
  ])('%s is %s', (typed, day) => {
    expect(readDay(typed, TODAY)).toBe(day);
  });

  it.each([
    ['5/1', '2026-11-26', '2027-01-05'],
    ['5/11', '2026-11-26', '2026-11-05'],
    ['20/12', '2027-01-08', '2026-12-20'],
    ['29.2.', '2027-11-26', '2028-02-29'],
  ])('%s without a year, typed on %s, is %s', (typed, today, day) => {
    expect(readDay(typed, today)).toBe(day);
  });

  it.each([
    '',
    '31/2/2026',
    '32/1/2026',
    '5/13/2026',
    '0/1/2026',
    'tomorrow',
    '5',
    '5/1/202',
    '12 Foo',
  ])('%s is none', (typed) => {
    expect(readDay(typed, TODAY)).toBeNull();
  });

  it('reads every day as it is shown', () => {
    fc.assert(
      fc.property(
        fc.date({ min: new Date('2000-01-01'), max: new Date('2099-12-31'), noInvalidDate: true }),
        (date) => {
          const day = date.toISOString().slice(0, 10);
          expect(readDay(sayDate(day, { weekday: true, year: true }), TODAY)).toBe(day);
        },
      ),
    );
  });
});

describe('a time as it is typed', () => {
  it.each([
    ['14:50', '14:50'],
    ['8:05', '08:05'],
    ['14.50', '14:50'],
    ['1450', '14:50'],
    ['850', '08:50'],
    ['8', '08:00'],
    ['8h05', '08:05'],
    ['14:', '14:00'],
    ['0:00', '00:00'],
    ['23:59', '23:59'],
  ])('%s is %s', (typed, time) => {
    expect(readClock(typed)).toBe(time);
  });

  it.each(['', '24:00', '12:60', '2pm', '14:5', '-1', '99999', 'noon'])('%s is none', (typed) => {
    expect(readClock(typed)).toBeNull();
  });
});
