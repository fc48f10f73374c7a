import { Temporal } from 'temporal-polyfill';

/** The years that a school plans in. */
export const isPlannedYear = (year: number): boolean => year >= 2000 && year < 2200;

/**
 * "2026-10-14T14:50" of the school's clock as an instant, or null when it is no such time, or in no year that anybody plans
 * in. One that a change of clock skips or repeats is read as \`compatible\` (RFC 5545, 3.3.5).
 */
export function readLocalTime(text: string, timeZone: string): number | null {
  if (!isPlannedYear(Number(/^(\d+)-/.exec(text)?.[1]))) return null;
  try {
    return Temporal.PlainDateTime.from(text).toZonedDateTime(timeZone).epochMilliseconds;
  } catch {
    return null;
  }
}

/** Whether a change of clock skips a time ("2026-03-29T01:30"), or has it twice. */
export function oddTime(text: string, timeZone: string): 'skipped' | 'twice' | null {
  const time = Temporal.PlainDateTime.from(text);
  const [first, last] = (['earlier', 'later'] as const).map((disambiguation) =>
    time.toZonedDateTime(timeZone, { disambiguation }),
  );
  if (!first || !last || first.equals(last)) return null;
  return first.toPlainDateTime().equals(time) ? 'twice' : 'skipped';
}

/** An instant on the school's clock: "2026-10-14T14:50". */
export const writeLocalTime = (instant: number, timeZone: string): string =>
  Temporal.Instant.fromEpochMilliseconds(instant)
    .toZonedDateTimeISO(timeZone)
    .toPlainDateTime()
    .toString({ smallestUnit: 'minute' });

/** The day that it is on the school's clock: "2026-10-14". */
export const dayOf = (instant: number, timeZone: string): string =>
  writeLocalTime(instant, timeZone).slice(0, 10);

/** The day of the week on a clock: Monday is 1, Sunday is 7 (ISO 8601). */
export const weekdayOf = (instant: number, timeZone: string): number =>
  Temporal.Instant.fromEpochMilliseconds(instant).toZonedDateTimeISO(timeZone).dayOfWeek;

/** When a day ("2026-10-14") is over on a clock, in epoch milliseconds. */
export const endOfDay = (day: string, timeZone: string): number =>
  Temporal.PlainDate.from(day).add({ days: 1 }).toZonedDateTime(timeZone).epochMilliseconds;
