const part = (at: number, timeZone: string, options: Intl.DateTimeFormatOptions) =>
  new Intl.DateTimeFormat('en-GB', { timeZone, ...options }).format(at);

/** The day of an instant (epoch milliseconds) on a clock: "Thursday 23 October". */
export const sayDay = (at: number, timeZone: string): string =>
  part(at, timeZone, { weekday: 'long', day: 'numeric', month: 'long' }).replace(',', '');

/** The time of day on a clock: "11:40". */
export const sayClock = (at: number, timeZone: string): string =>
  part(at, timeZone, { hour: '2-digit', minute: '2-digit' });

/** An instant (epoch milliseconds) in words on a clock: "Thursday 23 October, 11:40". */
export const sayTime = (at: number, timeZone: string): string =>
  `${sayDay(at, timeZone)}, ${sayClock(at, timeZone)}`;
