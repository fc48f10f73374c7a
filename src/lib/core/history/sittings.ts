/** An unbroken stretch of work by one person on one copy. Instants in epoch milliseconds. */
export interface Sitting {
  from: number;
  to: number;
  /** How many steps were made in it. */
  steps: number;
}

/** A longer pause than this ends a sitting: 10 minutes, in milliseconds. */
export const PAUSE = 10 * 60_000;

/** @param times when each step was made, ascending, in epoch milliseconds */
export function sittingsOf(times: readonly number[]): Sitting[] {
  const sittings: Sitting[] = [];
  for (const time of times) {
    const last = sittings.at(-1);
    if (last && time - last.to <= PAUSE) {
      last.to = time;
      last.steps += 1;
    } else sittings.push({ from: time, to: time, steps: 1 });
  }
  return sittings;
}
