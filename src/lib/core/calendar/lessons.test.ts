import { describe, expect, it } from 'vitest';
import { lessonsAfter, lessonsOn, type Holiday, type LessonSlot } from './lessons';
import { dayOf, endOfDay, readLocalTime, writeLocalTime } from './local-time';
import { dueChoices, proposeDue, timeOn } from './propose-due';

const TERM = { starts: '2026-09-01', ends: '2027-06-30' };
const of = (
  slots: LessonSlot[],
  timeZone = 'UTC',
  holidays: Holiday[] = [],
  term: Holiday = TERM,
) => ({ timeZone, slots, holidays, term });
const at = (iso: string) => Date.parse(iso);
const ends = (lessons: { ends: number }[]) =>
  lessons.map((lesson) => new Date(lesson.ends).toISOString());
const SLOTS = [
  { weekday: 2, starts: '14:00', ends: '14:50' },
  { weekday: 4, starts: '10:50', ends: '11:40' },
];

describe('lessons', () => {
  it('follow the slots, skip holidays, and count one that is still going on', () => {
    const holidays = [{ starts: '2026-10-26', ends: '2026-10-30' }];
    const lessons = lessonsAfter(of(SLOTS, 'UTC', holidays), at('2026-10-20T14:30:00Z'), 3);
    expect(ends(lessons)).toEqual([
      '2026-10-20T14:50:00.000Z',
      '2026-10-22T11:40:00.000Z',
      '2026-11-03T14:50:00.000Z',
    ]);
  });

  // tz database, Europe/Dublin: clocks go back on 25 October 2026 and forward on 28 March 2027, both at 01:00 UTC.
  it('keep the wall clock over the change of clock', () => {
    const autumn = lessonsAfter(of(SLOTS, 'Europe/Dublin'), at('2026-10-22T00:00:00Z'), 2);
    expect(ends(autumn)).toEqual(['2026-10-22T10:40:00.000Z', '2026-10-27T14:50:00.000Z']);
    const spring = lessonsAfter(of(SLOTS, 'Europe/Dublin'), at('2027-03-25T00:00:00Z'), 2);
    expect(ends(spring)).toEqual(['2027-03-25T11:40:00.000Z', '2027-03-30T13:50:00.000Z']);
  });

  it('read a skipped time as the later one and a repeated time as the first (RFC 5545, 3.3.5)', () => {
    expect(readLocalTime('2027-03-28T01:30', 'Europe/Dublin')).toBe(at('2027-03-28T01:30:00Z'));
    expect(readLocalTime('2026-10-25T01:30', 'Europe/Dublin')).toBe(at('2026-10-25T00:30:00Z'));
    expect(readLocalTime('yesterday', 'Europe/Dublin')).toBeNull();
    expect(writeLocalTime(at('2026-10-22T10:40:00Z'), 'Europe/Dublin')).toBe('2026-10-22T11:40');
  });

  it('end with their day, whatever the clock does that night', () => {
    expect(endOfDay('2026-10-24', 'Europe/Dublin')).toBe(Date.parse('2026-10-24T23:00:00Z'));
    expect(endOfDay('2026-10-25', 'Europe/Dublin')).toBe(Date.parse('2026-10-26T00:00:00Z'));
  });

  it('are none where there are no slots', () => {
    expect(lessonsAfter(of([]), 0, 5)).toEqual([]);
  });

  it('are none outside the term and in holidays', () => {
    const holidays = [{ starts: '2026-10-26', ends: '2026-10-30' }];
    const term = { starts: '2026-09-01', ends: '2026-11-05' };
    const table = of(SLOTS, 'UTC', holidays, term);
    const days = ['2026-08-27', '2026-10-20', '2026-10-27', '2026-11-05', '2026-11-10'];
    expect(days.map((day) => lessonsOn(table, day).length)).toEqual([0, 1, 0, 1, 0]);
    expect(ends(lessonsAfter(table, at('2026-10-23T00:00:00Z')))).toEqual([
      '2026-11-03T14:50:00.000Z',
      '2026-11-05T11:40:00.000Z',
    ]);
    expect(ends(lessonsAfter(table, at('2026-01-01T00:00:00Z'), 1))).toEqual([
      '2026-09-01T14:50:00.000Z',
    ]);
  });

  it('are on the school’s day, whatever day it is elsewhere', () => {
    expect(dayOf(at('2026-10-20T23:30:00Z'), 'Europe/Dublin')).toBe('2026-10-21');
    expect(dayOf(at('2026-10-20T02:30:00Z'), 'America/New_York')).toBe('2026-10-19');
  });
});

describe('due times', () => {
  const now = at('2026-10-20T08:00:00Z');
  const table = of(SLOTS);

  it('begin with the end of the second lesson, of each class where there are several', () => {
    expect(proposeDue([table], now)).toEqual({ kind: 'at', local: '2026-10-22T11:40' });
    expect(proposeDue([table, table], now)).toEqual({ kind: 'lesson', nth: 2 });
    // The last lesson of a term, and none.
    const last = of(SLOTS, 'UTC', [], { starts: '2026-09-01', ends: '2026-10-20' });
    expect(proposeDue([last], now)).toEqual({ kind: 'at', local: '2026-10-20T14:50' });
    expect(proposeDue([of([])], now)).toEqual({ kind: 'none' });
    expect(proposeDue([], now)).toEqual({ kind: 'none' });
  });

  it('of a chosen day are at its lessons: the first begins, the last ends; without one at a usual day', () => {
    const early = of([{ weekday: 2, starts: '09:00', ends: '09:50' }]);
    expect(timeOn([table], '2026-10-20', 'ends')).toBe('14:50');
    expect(timeOn([table, early], '2026-10-20', 'starts')).toBe('09:00');
    expect(timeOn([early, table], '2026-10-20', 'ends')).toBe('14:50');
    expect(timeOn([table], '2026-10-21', 'starts')).toBe('08:00');
    expect(timeOn([], '2026-10-20', 'ends')).toBe('16:00');
  });

  it('are offered at the ends of the next lessons', () => {
    expect(dueChoices([table], now)).toEqual(
      ['2026-10-20T14:50', '2026-10-22T11:40', '2026-10-27T14:50', '2026-10-29T11:40'].map(
        (local) => ({ kind: 'at', local }),
      ),
    );
    expect(dueChoices([table, table], now)).toEqual(
      [1, 2, 3].map((nth) => ({ kind: 'lesson', nth })),
    );
    expect(dueChoices([], now)).toEqual([]);
  });
});
