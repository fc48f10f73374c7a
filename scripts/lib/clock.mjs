/**
 * The clock of the tests. They play on one school day, whatever day the machine has: a Tuesday in the middle of a term,
 * while no lesson of the demo is on. Node.js and PostgreSQL are told by libfaketime, which moves their clock and lets it
 * run; pages in the browser get theirs from `tests/support/browser.ts`.
 */
import { faketimeLibrary } from './debian.mjs';

const TEST_DAY = '2026-11-24T10:20:00Z';

/**
 * @param {string} [instant] at which the clock stands now, in ISO 8601; the day of the tests where it is left out
 * @returns {Record<string, string>} the environment in which a program has that clock. `CLOCK_SHIFT`: how far it is from
 *   the machine's, in milliseconds
 */
export function clockFrom(instant = TEST_DAY) {
  const seconds = Math.round((Date.parse(instant) - Date.now()) / 1000);
  return {
    LD_PRELOAD: faketimeLibrary(),
    FAKETIME: `${seconds < 0 ? '-' : '+'}${Math.abs(seconds)}`,
    // How long something took is measured as ever.
    FAKETIME_DONT_FAKE_MONOTONIC: '1',
    CLOCK_SHIFT: String(seconds * 1000),
  };
}
