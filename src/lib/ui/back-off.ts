const FIRST = 500;
const LONGEST = 30_000;

/**
 * How long to wait before trying again, in milliseconds: twice as long each time, and never the same for all browsers of a
 * school at once.
 * @param failures in a row so far, from 1
 * @param chance from 0 to 1
 */
export function backOff(failures: number, chance = Math.random()): number {
  const longest = Math.min(LONGEST, FIRST * 2 ** (failures - 1));
  return Math.round(longest * (0.5 + chance / 2));
}
