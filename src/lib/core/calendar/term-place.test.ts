import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readLocalTime, writeLocalTime } from './local-time';
import { lessonsAfter, type Timetable } from './lessons';
import { TermLessons } from './term-place';

const DUBLIN = 'Europe/Dublin';
/** Mondays and Thursdays, with a week off. */
const autumn: Timetable = {
  timeZone: DUBLIN,
  slots: [
    { weekday: 1, starts: '09:00', ends: '09:50' },
    { weekday: 4, starts: '14:00', ends: '14:50' },
  ],
  holidays: [{ starts: '2026-10-26', ends: '2026-10-30' }],
  term: { starts: '2026-09-01', ends: '2026-12-18' },
};
/** Tuesdays and Fridays of another year, with other holidays. */
const next: Timetable = {
  timeZone: DUBLIN,
  slots: [
    { weekday: 2, starts: '11:00', ends: '11:50' },
    { weekday: 5, starts: '10:00', ends: '10:50' },
  ],
  holidays: [{ starts: '2027-09-20', ends: '2027-09-24' }],
  term: { starts: '2027-09-06', ends: '2027-10-15' },
};
const at = (local: string) => readLocalTime(local, DUBLIN) ?? NaN;
const moved = (local: string, to = next) => {
  const time = new TermLessons(to).counterpart(new TermLessons(autumn), at(local));
  return time === null ? null : writeLocalTime(time, DUBLIN);
};

describe('a time that is moved to another term', () => {
  it.each([
    // The end of the 1st lesson, Thursday 3 September, and of the 5th, Thursday 17th.
    ['2026-09-03T14:50', '2027-09-07T11:50'],
    ['2026-09-17T14:50', '2027-09-28T11:50'],
    // The start of the 2nd lesson, and in the middle of it.
    ['2026-09-07T09:00', '2027-09-10T10:00'],
    ['2026-09-07T09:20', '2027-09-10T10:20'],
    // The evening of a lesson's day, and the Saturday after it.
    ['2026-09-03T20:00', '2027-09-07T20:00'],
    ['2026-09-05T12:00', '2027-09-09T12:00'],
    // The 4th lesson, the last one before a week of holidays.
    ['2026-09-14T09:50', '2027-09-17T10:50'],
  ])('%s becomes %s', (from, to) => {
    expect(moved(from)).toBe(to);
  });

  it('has no counterpart before the first lesson, or where the new term has fewer', () => {
    expect(moved('2026-09-02T12:00')).toBeNull();
    // The 25th lesson of autumn; the next term has ten.
    expect(lessonsAfter(next, 0)).toHaveLength(10);
    expect(moved('2026-12-03T14:50')).toBeNull();
  });

  it('counts holidays where the new calendar has them', () => {
    // Thursday 22 October is the 15th lesson, and Monday 2 November, after the week off, the 16th.
    expect(new TermLessons(autumn).placeOf(at('2026-10-22T14:50'))).toEqual({
      kind: 'at the end',
      nth: 15,
    });
    expect(new TermLessons(autumn).placeOf(at('2026-11-02T09:50'))).toEqual({
      kind: 'at the end',
      nth: 16,
    });
  });

  it('ends no later than its lesson', () => {
    const short = { ...next, slots: [{ weekday: 2, starts: '11:00', ends: '11:10' }] };
    expect(moved('2026-09-03T14:30', short)).toBe('2027-09-07T11:10');
  });

  it('comes back to where it was in its own term', () => {
    const first = at('2026-09-03T14:00');
    const last = at('2026-12-18T23:59');
    const term = new TermLessons(autumn);
    fc.assert(
      fc.property(fc.integer({ min: first / 60_000, max: last / 60_000 }), (minutes) => {
        const time = minutes * 60_000;
        const back = term.counterpart(term, time);
        // The hour that the clock shows twice, as the clock shows it.
        expect(back && writeLocalTime(back, DUBLIN)).toBe(writeLocalTime(time, DUBLIN));
      }),
    );
  });
});
