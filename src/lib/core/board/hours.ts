import type { Lesson } from '../calendar/lessons';
import { weekdayOf } from '../calendar/local-time';
import { lengthOf } from '../calendar/say-time';

/** When somebody worked on a copy: times in milliseconds. */
export interface Hours {
  sittings: number;
  time: number;
  /** Of that, in lessons of the class, and in the evening. */
  lessons: number;
  evenings: number;
  /** When they last did, in epoch milliseconds. */
  last: number;
}

interface Stretch {
  /** Epoch milliseconds. */
  from: number;
  to: number;
}

/** A sitting of a single change took as long as this, in milliseconds (common practice, no source). */
export const LEAST = 60_000;
/** Evening begins and ends at these hours of the school's clock (common practice, no source). */
const EVENING = [17, 6] as const;

const clocks = new Map<string, Intl.DateTimeFormat>();
function hourOf(at: number, timeZone: string): number {
  const clock =
    clocks.get(timeZone) ??
    new Intl.DateTimeFormat('en-GB', { timeZone, hour: '2-digit', hourCycle: 'h23' });
  clocks.set(timeZone, clock);
  return Number(clock.format(at));
}
const isEvening = (at: number, timeZone: string) => {
  const hour = hourOf(at, timeZone);
  return hour >= EVENING[0] || hour < EVENING[1];
};

/** How long a sitting took, and what of it was where, in milliseconds. */
function divide({ from, to: last }: Stretch, lessons: readonly Lesson[], timeZone: string) {
  const to = Math.max(last, from + LEAST);
  const time = to - from;
  const inLessons = lessons.reduce(
    (sum, { starts, ends }) => sum + Math.max(0, Math.min(to, ends) - Math.max(from, starts)),
    0,
  );
  const inEvening = isEvening((from + to) / 2, timeZone) ? time - inLessons : 0;
  return { time, inLessons, inEvening };
}

/** How long a class worked on a day of the week, in milliseconds: in lessons, in the evening, and otherwise. */
export interface WorkOfDay {
  lessons: number;
  evenings: number;
  other: number;
}

/** When work happens in the week: Monday to Sunday of the school's clock, by when each sitting began. */
export function weekOfWork(
  sittings: readonly Stretch[],
  lessons: readonly Lesson[],
  timeZone: string,
): WorkOfDay[] {
  const week = Array.from({ length: 7 }, () => ({ lessons: 0, evenings: 0, other: 0 }));
  for (const sitting of sittings) {
    const day = week[weekdayOf(sitting.from, timeZone) - 1];
    if (!day) continue;
    const { time, inLessons, inEvening } = divide(sitting, lessons, timeZone);
    day.lessons += inLessons;
    day.evenings += inEvening;
    day.other += time - inLessons - inEvening;
  }
  return week;
}

/**
 * When somebody worked. What of a sitting lies in a lesson was in that lesson; what is left of it was in the evening when
 * its middle lies there. Null for nobody's sittings.
 */
export function hoursOf(
  sittings: readonly Stretch[],
  lessons: readonly Lesson[],
  timeZone: string,
): Hours | null {
  if (sittings.length === 0) return null;
  const hours = { sittings: sittings.length, time: 0, lessons: 0, evenings: 0, last: 0 };
  for (const sitting of sittings) {
    const { time, inLessons, inEvening } = divide(sitting, lessons, timeZone);
    hours.time += time;
    hours.lessons += inLessons;
    hours.evenings += inEvening;
    hours.last = Math.max(hours.last, sitting.to);
  }
  return hours;
}

/** Of what: "40 min in lessons, 30 min in the evening". Empty where it was neither. */
export const sayWhere = ({ lessons, evenings }: Hours): string =>
  [
    lessons > 0 && `${lengthOf(lessons)} in lessons`,
    evenings > 0 && `${lengthOf(evenings)} in the evening`,
  ]
    .filter(Boolean)
    .join(', ');

/** The same in few words: the whole of it where all was in one, otherwise what was in the evening, or in lessons. */
export function sayWhereShortly({ time, lessons, evenings }: Hours): string {
  if (lessons === time) return 'in lessons';
  if (evenings === time) return 'in the evening';
  if (evenings > 0) return `evening ${lengthOf(evenings)}`;
  return lessons > 0 ? `lessons ${lengthOf(lessons)}` : '';
}

/** How the last change stands to the due time: "2 days before it was due"; empty where nothing is due. */
export const sayToDue = ({ last }: Hours, due: number | null): string => {
  if (due === null) return '';
  const by = Math.abs(last - due);
  return `last ${lengthOf(by)} ${last > due ? 'after' : 'before'} the due time`;
};
