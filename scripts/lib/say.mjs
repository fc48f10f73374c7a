/** @param {string} text */
export const say = (text) => process.stdout.write(`${text}\n`);

/** Ends the program with one sentence that says what to do.
 * @param {string} sentence
 * @returns {never} */
export function giveUp(sentence) {
  process.stderr.write(`\n${sentence}\n`);
  process.exit(1);
}
