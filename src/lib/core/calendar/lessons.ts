import { Temporal } from 'temporal-polyfill';

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

export interface Lesson {
  /** Instants in epoch milliseconds. */
  starts: number;
  ends: number;
}

const within = (date: string, holiday: Holiday) => date >= holiday.starts && date <= holiday.ends;

/**
 * The class's lessons that end after `from` (epoch milliseconds), in order, looking one year ahead at most.
 * A wall-clock time that a change of clock skips or repeats is read as `compatible` (RFC 5545, 3.3.5).
 */
export function lessonsAfter(
  slots: readonly LessonSlot[],
  holidays: readonly Holiday[],
  timeZone: string,
  from: number,
  count: number,
): Lesson[] {
  if (slots.length === 0) return [];
  const lessons: Lesson[] = [];
  const inOrder = [...slots].sort((a, b) => a.starts.localeCompare(b.starts));
  let date = Temporal.Instant.fromEpochMilliseconds(from)
    .toZonedDateTimeISO(timeZone)
    .toPlainDate();
  for (let day = 0; day < 366 && lessons.length < count; day++, date = date.add({ days: 1 })) {
    if (holidays.some((holiday) => within(date.toString(), holiday))) continue;
    const at = (time: string) =>
      date.toZonedDateTime({ timeZone, plainTime: Temporal.PlainTime.from(time) })
        .epochMilliseconds;
    for (const slot of inOrder)
      if (slot.weekday === date.dayOfWeek && at(slot.ends) > from)
        lessons.push({ starts: at(slot.starts), ends: at(slot.ends) });
  }
  return lessons.slice(0, count);
}

/** "2026-10-14T14:50" of the school's clock as an instant, or null when it is no such time. */
export function readLocalTime(text: string, timeZone: string): number | null {
  try {
    return Temporal.PlainDateTime.from(text).toZonedDateTime(timeZone).epochMilliseconds;
  } catch {
    return null;
  }
}

/** An instant on the school's clock, as an `<input type="datetime-local">` has it. */
export const writeLocalTime = (instant: number, timeZone: string): string =>
  Temporal.Instant.fromEpochMilliseconds(instant)
    .toZonedDateTimeISO(timeZone)
    .toPlainDateTime()
    .toString({ smallestUnit: 'minute' });

/** When a day ("2026-10-14") is over on a clock, in epoch milliseconds. */
export const endOfDay = (day: string, timeZone: string): number =>
  Temporal.PlainDate.from(day).add({ days: 1 }).toZonedDateTime(timeZone).epochMilliseconds;
