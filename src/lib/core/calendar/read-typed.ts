import { LANGUAGE } from '../language';
import { isPlannedYear } from './local-time';

const month = new Intl.DateTimeFormat(LANGUAGE, { timeZone: 'UTC', month: 'short' });
/** "jan", "feb", …: by these a month's name is known, however much of it is typed. */
const MONTHS = Array.from({ length: 12 }, (_, index) =>
  month.format(Date.UTC(2001, index)).slice(0, 3).toLowerCase(),
);

/** The day, if there is such a one: no 31st of February. */
function existingDay(year: number, month: number, day: number): string | null {
  const date = new Date(Date.UTC(2000, month - 1, day));
  date.setUTCFullYear(year);
  return date.getUTCMonth() === month - 1 && date.getUTCDate() === day && isPlannedYear(year)
    ? date.toISOString().slice(0, 10)
    : null;
}

/**
 * A day as people type it, day first: "23/10/2026", "23.10.", "23 Oct 26", "Fri 23 October 2026", "2026-10-23".
 * Without a year it is the one nearest to today.
 * @param today "2026-10-14"
 * @returns "2026-10-23", or null when it is no day
 */
export function readDay(text: string, today: string): string | null {
  const iso = /^(\d{4})-(\d{1,2})-(\d{1,2})$/.exec(text.trim());
  if (iso) return existingDay(Number(iso[1]), Number(iso[2]), Number(iso[3]));
  const typed =
    /^(?:[a-z]+\.?,?\s*)?(\d{1,2})(?:[./\-\s]*([a-z]{3,})|[./\-\s]+(\d{1,2}))[./\-,\s]*(\d{2}|\d{4})?$/i.exec(
      text.trim(),
    );
  if (!typed) return null;
  const [, day, name, number, year] = typed;
  const monthOfYear = name ? MONTHS.indexOf(name.slice(0, 3).toLowerCase()) + 1 : Number(number);
  if (year)
    return existingDay(Number(year.length === 2 ? `20${year}` : year), monthOfYear, Number(day));
  const thisYear = Number(today.slice(0, 4));
  const near = [thisYear, thisYear + 1, thisYear - 1].flatMap(
    (one) => existingDay(one, monthOfYear, Number(day)) ?? [],
  );
  const apart = (one: string) => Math.abs(Date.parse(one) - Date.parse(today));
  return near.sort((a, b) => apart(a) - apart(b))[0] ?? null;
}

/**
 * A time of day as people type it: "14:50", "14.50", "1450", "8", "8h05".
 * @returns "14:50", or null when it is no time of a day of 24 hours
 */
export function readClock(text: string): string | null {
  const typed = /^(\d{1,2})(?:\s*[:.h]\s*(\d{2})?|(\d{2}))?$/i.exec(text.trim());
  if (!typed) return null;
  const hour = Number(typed[1]);
  const minute = Number(typed[2] ?? typed[3] ?? 0);
  if (hour > 23 || minute > 59) return null;
  return `${String(hour).padStart(2, '0')}:${String(minute).padStart(2, '0')}`;
}
