import { Temporal } from 'temporal-polyfill';
import { dayOf, readLocalTime, writeLocalTime } from './local-time';
import { lessonsAfter, type Lesson, type Timetable } from './lessons';

/**
 * Where a time stands in a term, counted by the class's lessons, the first of which is 1: in a lesson, so many minutes after it
 * begins, or at its end; or so many days after a lesson's day, at a time of the school's clock ("16:00").
 */
export type TermPlace =
  | { kind: 'in a lesson'; nth: number; minutes: number }
  | { kind: 'at the end'; nth: number }
  | { kind: 'after a lesson'; nth: number; days: number; clock: string };

const MINUTE = 60_000;

const lessonsOf = (timetable: Timetable): Lesson[] => lessonsAfter(timetable, 0);

/** Where an instant (epoch milliseconds) stands in its term; null when no lesson was before it. */
export function placeInTerm(timetable: Timetable, at: number): TermPlace | null {
  const lessons = lessonsOf(timetable);
  const index = lessons.findLastIndex(({ starts }) => starts <= at);
  const lesson = lessons[index];
  if (!lesson) return null;
  const nth = index + 1;
  if (at === lesson.ends) return { kind: 'at the end', nth };
  if (at < lesson.ends)
    return { kind: 'in a lesson', nth, minutes: Math.round((at - lesson.starts) / MINUTE) };
  const { timeZone } = timetable;
  const day = Temporal.PlainDate.from(dayOf(lesson.starts, timeZone));
  const { days } = day.until(Temporal.PlainDate.from(dayOf(at, timeZone)), { largestUnit: 'day' });
  return { kind: 'after a lesson', nth, days, clock: writeLocalTime(at, timeZone).slice(11) };
}

/** The instant at a place of another term, in epoch milliseconds; null when it has fewer lessons. */
export function timeInTerm(timetable: Timetable, place: TermPlace): number | null {
  const lesson = lessonsOf(timetable)[place.nth - 1];
  if (!lesson) return null;
  if (place.kind === 'at the end') return lesson.ends;
  if (place.kind === 'in a lesson')
    return Math.min(lesson.starts + place.minutes * MINUTE, lesson.ends);
  const { timeZone } = timetable;
  const day = Temporal.PlainDate.from(dayOf(lesson.starts, timeZone)).add({ days: place.days });
  return readLocalTime(`${day}T${place.clock}`, timeZone);
}
