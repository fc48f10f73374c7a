/**
 * What a run of the tests comes to. A file that failed is run again alone, when all else has ended: green then, it failed
 * by chance and is *unsteady*. That is told and does not make the run red, as long as it is rare.
 */

/** @typedef {{ fullName: string, status: string }} OneTest */
/** @typedef {{ name: string, status: string, message?: string, assertionResults: OneTest[] }} File as vitest's JSON reporter has it */
/** @typedef {{ test: string, at: number }} Chance a test that failed by chance, and when, in epoch milliseconds */

/** So many files may be unsteady in a run that is green. */
export const MOST_UNSTEADY = 2;
const WEEK = 7 * 86_400_000;

/** @param {File} file @returns {string[]} the tests that failed; the file itself where it has none to blame */
export function failuresOf({ name, status, assertionResults }) {
  const failed = assertionResults.filter((test) => test.status === 'failed');
  if (failed.length) return failed.map(({ fullName }) => `${name} › ${fullName}`);
  return status === 'failed' ? [name] : [];
}

/**
 * @param {readonly File[]} first what each file came to
 * @param {ReadonlyMap<string, File>} again what those came to that were run again, by name
 * @param {readonly Chance[]} past what failed by chance on this machine before
 * @param {number} now epoch milliseconds
 */
export function judgeRun(first, again, past, now) {
  const last = first.map((file) => again.get(file.name) ?? file);
  const red = last.flatMap(failuresOf);
  const unsteady = first
    .filter((file) => failuresOf(file).length > 0 && again.get(file.name)?.status === 'passed')
    .map((file) => ({ file: file.name, tests: failuresOf(file) }));
  const known = new Set(past.filter(({ at }) => at > now - WEEK).map(({ test }) => test));
  const twice = unsteady.flatMap(({ tests }) => tests).filter((test) => known.has(test));
  const count = (/** @type {string} */ status) =>
    last.flatMap((file) => file.assertionResults).filter((test) => test.status === status).length;
  const passed = count('passed');
  return {
    unsteady,
    red,
    /** Failed by chance within a week before, too: that hides a fault. */
    twice,
    passed,
    failed: red.length,
    skipped: last.flatMap((file) => file.assertionResults).length - passed - count('failed'),
    isGreen: red.length === 0 && twice.length === 0 && unsteady.length <= MOST_UNSTEADY,
  };
}
