/** Instants in words, on the school's clock. */

const parts = (timeZone: string, options: Intl.DateTimeFormatOptions) =>
  new Intl.DateTimeFormat('en-GB', { timeZone, ...options });

export const clock = (at: number, timeZone: string): string =>
  parts(timeZone, { hour: '2-digit', minute: '2-digit' }).format(at);

const day = (at: number, timeZone: string) =>
  parts(timeZone, { year: 'numeric', month: '2-digit', day: '2-digit' }).format(at);

/** "14:20" today, "Thu 11:40" within a week, "7 Oct 11:40" beyond. */
export function when(at: number, now: number, timeZone: string): string {
  const time = clock(at, timeZone);
  if (day(at, timeZone) === day(now, timeZone)) return time;
  const near = Math.abs(at - now) < 6 * 86_400_000;
  const date: Intl.DateTimeFormatOptions = near
    ? { weekday: 'short' }
    : { day: 'numeric', month: 'short' };
  return `${parts(timeZone, date).format(at)} ${time}`;
}

/** How long something is, in milliseconds: "1 day 21 h", "40 min". */
export function lengthOf(milliseconds: number): string {
  const minutes = Math.round(milliseconds / 60_000);
  const days = Math.floor(minutes / 1440);
  const hours = Math.floor((minutes % 1440) / 60);
  const dayWords = days === 1 ? '1 day' : `${days} days`;
  if (days > 1) return dayWords;
  if (days === 1) return `${dayWords} ${hours} h`;
  return hours > 0 ? `${hours} h ${minutes % 60} min` : `${minutes} min`;
}

/** "in 1 day 21 h", "in 40 min", "2 days ago". */
export const away = (at: number, now: number): string =>
  at >= now ? `in ${lengthOf(at - now)}` : `${lengthOf(now - at)} ago`;

export const longDate = (at: number, timeZone: string): string =>
  parts(timeZone, { weekday: 'long', day: 'numeric', month: 'long' }).format(at);
