import { hashesOf } from '../alike/winnow';

const WORD = /[\p{L}\p{N}]+/gu;

/**
 * The pairs of neighbouring words of a text, as hashes. Single words are shared by any two texts of a language, pairs by few. A
 * text of one word is a pair of it and nothing.
 */
export function wordPairs(text: string): Set<number> {
  const words = text.normalize('NFKC').toLowerCase().match(WORD) ?? [];
  const pairs = new Set<number>();
  for (let i = 0; i < Math.max(words.length - 1, Math.min(words.length, 1)); i++) {
    const pair = `${words[i]} ${words[i + 1] ?? ''}`;
    pairs.add(hashesOf(pair, pair.length)[0] ?? 0);
  }
  return pairs;
}

/** So many pairs tell to about a tenth how much of a text still stands. */
const SAMPLED = 24;

/** The smallest hashes of some pairs: a fair sample of the text (Broder 1997, from memory). */
export const samplePairs = (pairs: ReadonlySet<number>): number[] =>
  [...pairs].sort((a, b) => a - b).slice(0, SAMPLED);

/** Which share of some pairs a text still has, 0 to 1; 1 of none. */
export function shareLeft(of: Iterable<number>, left: ReadonlySet<number>): number {
  const all = [...of];
  return all.length === 0 ? 1 : all.filter((one) => left.has(one)).length / all.length;
}
