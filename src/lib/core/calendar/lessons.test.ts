import { describe, expect, it } from 'vitest';
import { endOfDay, lessonsAfter, readLocalTime, writeLocalTime } from './lessons';

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
    const lessons = lessonsAfter(SLOTS, holidays, 'UTC', at('2026-10-20T14:30:00Z'), 3);
    expect(ends(lessons)).toEqual([
      '2026-10-20T14:50:00.000Z',
      '2026-10-22T11:40:00.000Z',
      '2026-11-03T14:50:00.000Z',
    ]);
  });

  // tz database, Europe/Dublin: clocks go back on 25 October 2026 and forward on 28 March 2027, both at 01:00 UTC.
  it('keep the wall clock over the change of clock', () => {
    const autumn = lessonsAfter(SLOTS, [], 'Europe/Dublin', at('2026-10-22T00:00:00Z'), 2);
    expect(ends(autumn)).toEqual(['2026-10-22T10:40:00.000Z', '2026-10-27T14:50:00.000Z']);
    const spring = lessonsAfter(SLOTS, [], 'Europe/Dublin', at('2027-03-25T00:00:00Z'), 2);
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
    expect(lessonsAfter([], [], 'UTC', 0, 5)).toEqual([]);
  });
});
