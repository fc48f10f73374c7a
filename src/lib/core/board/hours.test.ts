import { describe, expect, it } from 'vitest';
import { hoursOf, sayToDue, sayWhere, sayWhereShortly, weekOfWork } from './hours';

const MINUTE = 60_000;
const at = (text: string) => Date.parse(`${text}Z`);
const from = (text: string, minutes: number) => ({
  from: at(text),
  to: at(text) + minutes * MINUTE,
});
const LESSON = { starts: at('2026-10-13T14:00'), ends: at('2026-10-13T14:50') };

describe('the hours of a copy', () => {
  it('are in lessons as far as they lie there, and in the evening by the school’s clock', () => {
    const hours = hoursOf(
      [
        // Twenty minutes of it before the bell.
        from('2026-10-13T13:40', 60),
        from('2026-10-13T19:10', 25),
        from('2026-10-14T07:00', 10),
      ],
      [LESSON],
      'UTC',
    );
    expect(hours).toEqual({
      sittings: 3,
      time: 95 * MINUTE,
      lessons: 40 * MINUTE,
      evenings: 25 * MINUTE,
      last: at('2026-10-14T07:10'),
    });
    // Seven in the morning in London is evening in Auckland (UTC+13 then).
    expect(hoursOf([from('2026-10-14T07:00', 10)], [], 'Pacific/Auckland')?.evenings).toBe(
      10 * MINUTE,
    );
  });

  it('count a minute for a single change, and are none without one', () => {
    expect(hoursOf([from('2026-10-13T10:00', 0)], [], 'UTC')).toMatchObject({
      time: MINUTE,
      last: at('2026-10-13T10:00'),
    });
    expect(hoursOf([], [LESSON], 'UTC')).toBeNull();
  });

  it('say where they were, and how they stand to the due time', () => {
    const hours = hoursOf(
      [from('2026-10-13T14:00', 30), from('2026-10-13T20:00', 45)],
      [LESSON],
      'UTC',
    );
    if (!hours) throw new Error('no hours');
    expect(sayWhere(hours)).toBe('30 mins in lessons, 45 mins in the evening');
    expect(sayToDue(hours, at('2026-10-13T21:45'))).toBe('last 1 hr 0 mins before the due time');
    expect(sayToDue(hours, at('2026-10-13T20:40'))).toBe('last 5 mins after the due time');
    expect(sayToDue(hours, null)).toBe('');
    expect(sayWhereShortly(hours)).toBe('evening 45 mins');
    const shortly = (lessons: number, evenings: number) =>
      sayWhereShortly({ ...hours, time: 3 * MINUTE, lessons, evenings });
    expect(shortly(3 * MINUTE, 0)).toBe('in lessons');
    expect(shortly(0, 3 * MINUTE)).toBe('in the evening');
    expect(shortly(MINUTE, 0)).toBe('lessons 1 min');
    expect(shortly(0, 0)).toBe('');
  });

  it('make up the week of a class, by the day of the school’s clock on which each began', () => {
    // 13 October 2026 is a Tuesday; late on Sunday in London it is Monday in Auckland.
    const some = [from('2026-10-13T13:40', 60), from('2026-10-18T19:00', 30)];
    const week = weekOfWork(some, [LESSON], 'UTC');
    expect(week).toHaveLength(7);
    expect(week[1]).toEqual({ lessons: 40 * MINUTE, evenings: 0, other: 20 * MINUTE });
    expect(week[6]).toEqual({ lessons: 0, evenings: 30 * MINUTE, other: 0 });
    expect(weekOfWork(some, [LESSON], 'Pacific/Auckland')[0]?.other).toBe(30 * MINUTE);
  });
});
