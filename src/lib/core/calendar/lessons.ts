import { Temporal } from 'temporal-polyfill';
import { dayOf } from './local-time';

/** A weekly lesson of a class in the school's own time. */
export interface LessonSlot {
  /** ISO: Monday is 1, Sunday is 7. */
  weekday: number;
  /** "14:00" */
  starts: string;
  ends: string;
}

/** Both ends included, as "2026-10-26". */
export interface Holiday {
  starts: string;
  ends: string;
}

/** When a class has lessons: its weekly slots, within its term and outside holidays. */
export interface Timetable {
  timeZone: string;
  slots: readonly LessonSlot[];
  holidays: readonly Holiday[];
  /** Both ends included. */
  term: { starts: string; ends: string };
}

export interface Lesson {
  /** Instants in epoch milliseconds. */
  starts: number;
  ends: number;
}

const within = (date: string, { starts, ends }: Holiday) => date >= starts && date <= ends;

export const isHoliday = ({ holidays }: Timetable, day: string): boolean =>
  holidays.some((holiday) => within(day, holiday));

/**
 * A class's lessons of one day ("2026-10-14"), in order.
 * A wall-clock time that a change of clock skips or repeats is read as `compatible` (RFC 5545, 3.3.5).
 */
export function lessonsOn(timetable: Timetable, day: string): Lesson[] {
  const { timeZone, slots, term } = timetable;
  if (!within(day, term) || isHoliday(timetable, day)) return [];
  const date = Temporal.PlainDate.from(day);
  const at = (time: string) =>
    date.toZonedDateTime({ timeZone, plainTime: Temporal.PlainTime.from(time) }).epochMilliseconds;
  return slots
    .filter(({ weekday }) => weekday === date.dayOfWeek)
    .map(({ starts, ends }) => ({ starts: at(starts), ends: at(ends) }))
    .sort((a, b) => a.starts - b.starts);
}

/** The first lessons of a class that end after `from` (epoch milliseconds), in order: as many as are wanted, or as there are. */
export function lessonsAfter(timetable: Timetable, from: number, count = Infinity): Lesson[] {
  const { timeZone, term, slots } = timetable;
  if (slots.length === 0) return [];
  const lessons: Lesson[] = [];
  const today = dayOf(from, timeZone);
  let date = Temporal.PlainDate.from(today > term.starts ? today : term.starts);
  for (; date.toString() <= term.ends && lessons.length < count; date = date.add({ days: 1 }))
    lessons.push(...lessonsOn(timetable, date.toString()).filter(({ ends }) => ends > from));
  return lessons.slice(0, count);
}
