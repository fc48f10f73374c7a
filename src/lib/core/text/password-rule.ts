/** NIST SP 800-63B, 5.1.1.2: at least eight characters, and none that are commonly used or guessed from the name. */
const LEAST = 8;
const MOST = 200;

/**
 * What is wrong with a password; null when it will do.
 * @param common in lower case
 * @param own what a guesser would try first: the sign-in name, the names of the person
 */
export function passwordFault(
  password: string,
  common: ReadonlySet<string>,
  own: readonly string[],
): string | null {
  const length = [...password].length;
  if (length < LEAST) return `A password has at least ${LEAST} characters.`;
  if (length > MOST) return `A password has at most ${MOST} characters.`;
  const plain = password.toLowerCase();
  if (common.has(plain)) return 'This password is one that many people use. Please choose another.';
  if (own.some((name) => name.length > 2 && plain === name.toLowerCase()))
    return 'This password is your own name. Please choose another.';
  return null;
}
