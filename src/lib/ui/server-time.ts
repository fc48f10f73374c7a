/** How far the server's clock is ahead of this device's, in milliseconds: a laptop may be wrong by an hour. */
let ahead = 0;

/** An answer says the time in whole seconds, and takes a while to arrive: less than this is no difference. */
const LEAST = 5000;

function note(time: number) {
  const difference = time - Date.now();
  if (Math.abs(difference - ahead) > LEAST) ahead = difference;
}

/** The time now by the server's clock, which every due time goes by. Epoch milliseconds. */
export const serverNow = (): number => Date.now() + ahead;

/** A view was made by the server at a time. */
export function noteTime(time: number): void {
  // The server itself has no other clock.
  if (!import.meta.env.SSR) note(time);
}

/** An answer carries the server's time (RFC 9110, 6.6.1: the field Date). */
export function noteAnswer(answer: Response): void {
  const time = Date.parse(answer.headers.get('date') ?? '');
  if (!Number.isNaN(time)) noteTime(time);
}
