/** A chosen hash of a text, and where it stands among all of them. */
export interface Fingerprint {
  hash: number;
  at: number;
}

/**
 * Chooses fingerprints of a text from the hashes of its k-grams: of every window of so many hashes after one another the
 * smallest, of equal ones the rightmost; each once. Schleimer, Wilkerson and Aiken, "Winnowing: Local Algorithms for Document
 * Fingerprinting", SIGMOD 2003, definition 3. A text with fewer hashes than a window has its smallest.
 */
export function winnow(hashes: readonly number[], window: number): Fingerprint[] {
  const chosen: Fingerprint[] = [];
  let least = -1;
  const last = Math.max(1, hashes.length - window + 1);
  for (let start = 0; start < last && hashes.length > 0; start++) {
    const end = Math.min(start + window, hashes.length);
    // The smallest of the window before is still in this one, or all of it is looked at again.
    const from = least < start ? start : end - 1;
    if (least < start) least = start;
    const before = chosen.at(-1)?.at;
    for (let i = from; i < end; i++) if ((hashes[i] ?? 0) <= (hashes[least] ?? 0)) least = i;
    if (least !== before) chosen.push({ hash: hashes[least] ?? 0, at: least });
  }
  return chosen;
}

const BASE = 0x01000193;

/** The hashes of all k-grams of a text, in order: a rolling one, of 32 bits (Karp and Rabin 1987). */
export function hashesOf(text: string, k: number): number[] {
  const hashes: number[] = [];
  let power = 1;
  for (let i = 1; i < k; i++) power = Math.imul(power, BASE);
  let hash = 0;
  for (let i = 0; i < text.length; i++) {
    if (i >= k) hash = (hash - Math.imul(text.charCodeAt(i - k), power)) | 0;
    hash = (Math.imul(hash, BASE) + text.charCodeAt(i)) | 0;
    // Its high bits, which all letters have moved, order it.
    if (i >= k - 1) hashes.push(Math.imul(hash ^ (hash >>> 15), 0x2c1b3c6d) >>> 0);
  }
  return hashes;
}
