/** Instants (epoch milliseconds) and lengths (milliseconds) in words, on the clock of a time zone. */
import { LANGUAGE } from '../language';

/** Making a format takes longer than a hundred uses of it. */
const formats = new Map<string, Intl.DateTimeFormat>();
function part(at: number, timeZone: string, options: Intl.DateTimeFormatOptions): string {
  const key = JSON.stringify([timeZone, options]);
  const format = formats.get(key) ?? new Intl.DateTimeFormat(LANGUAGE, { timeZone, ...options });
  formats.set(key, format);
  return format.format(at);
}

/** "Thursday 23 October". */
export const sayDay = (at: number, timeZone: string): string =>
  part(at, timeZone, { weekday: 'long', day: 'numeric', month: 'long' }).replace(',', '');

/** "11:40". */
export const sayClock = (at: number, timeZone: string): string =>
  part(at, timeZone, { hour: '2-digit', minute: '2-digit' });

/** "Thursday 23 October, 11:40". */
export const sayTime = (at: number, timeZone: string): string =>
  `${sayDay(at, timeZone)}, ${sayClock(at, timeZone)}`;

/** "Thu 23 Oct 2026, 11:40". */
export const sayTimeOfYear = (at: number, timeZone: string): string =>
  `${part(at, timeZone, { weekday: 'short', day: 'numeric', month: 'short', year: 'numeric' }).replace(',', '')}, ${sayClock(at, timeZone)}`;

/** A day without a clock ("2026-10-23"): "23 Oct", with more of it "Fri 23 Oct" or "Fri 23 Oct 2026". */
export const sayDate = (date: string, more: { weekday?: true; year?: true } = {}): string =>
  part(Date.parse(date), 'UTC', {
    weekday: more.weekday ? 'short' : undefined,
    day: 'numeric',
    month: 'short',
    year: more.year ? 'numeric' : undefined,
  }).replace(',', '');

/** "14:20" today, "Thu 11:40" within a week, "7 Oct 11:40" beyond. */
export function when(at: number, now: number, timeZone: string): string {
  const time = sayClock(at, timeZone);
  const day = (instant: number) => part(instant, timeZone, { dateStyle: 'short' });
  if (day(at) === day(now)) return time;
  const near = Math.abs(at - now) < 6 * 86_400_000;
  const date: Intl.DateTimeFormatOptions = near
    ? { weekday: 'short' }
    : { day: 'numeric', month: 'short' };
  return `${part(at, timeZone, date)} ${time}`;
}

const counted = (count: number, unit: 'day' | 'hour' | 'minute') =>
  new Intl.NumberFormat(LANGUAGE, {
    style: 'unit',
    unit,
    unitDisplay: unit === 'day' ? 'long' : 'short',
  }).format(count);

/** "3 days", "1 day 21 hrs", "2 hrs 5 mins", "40 mins". */
export function lengthOf(milliseconds: number): string {
  const minutes = Math.round(milliseconds / 60_000);
  const days = Math.floor(minutes / 1440);
  const hours = Math.floor((minutes % 1440) / 60);
  if (days > 1) return counted(days, 'day');
  if (days === 1) return `${counted(1, 'day')} ${counted(hours, 'hour')}`;
  const rest = counted(minutes % 60, 'minute');
  return hours > 0 ? `${counted(hours, 'hour')} ${rest}` : rest;
}

/** "in 1 day 21 hrs", "in 40 mins", "2 days ago". */
export const away = (at: number, now: number): string =>
  at >= now ? `in ${lengthOf(at - now)}` : `${lengthOf(now - at)} ago`;
