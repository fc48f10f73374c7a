import { Temporal } from 'temporal-polyfill';

/** "2026-10-14T14:50" of the school's clock as an instant, or null when it is no such time. */
export function readLocalTime(text: string, timeZone: string): number | null {
  try {
    return Temporal.PlainDateTime.from(text).toZonedDateTime(timeZone).epochMilliseconds;
  } catch {
    return null;
  }
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

/** When a day ("2026-10-14") is over on a clock, in epoch milliseconds. */
export const endOfDay = (day: string, timeZone: string): number =>
  Temporal.PlainDate.from(day).add({ days: 1 }).toZonedDateTime(timeZone).epochMilliseconds;
