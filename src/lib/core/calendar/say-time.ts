/** An instant (epoch milliseconds) in words on a clock: "Thursday 23 October, 11:40". */
export function sayTime(at: number, timeZone: string): string {
  const part = (options: Intl.DateTimeFormatOptions) =>
    new Intl.DateTimeFormat('en-GB', { timeZone, ...options }).format(at);
  const day = part({ weekday: 'long', day: 'numeric', month: 'long' }).replace(',', '');
  return `${day}, ${part({ hour: '2-digit', minute: '2-digit' })}`;
}
