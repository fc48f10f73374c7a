import type { Node } from 'prosemirror-model';
import { lettersOf } from '../alike/letters';
import { hashesOf, winnow } from '../alike/winnow';

/** Letters and digits of a fingerprint: less than a line, as directions are short. */
const GRAM = 15;
const WINDOW = 6;
/** So many fingerprints an original needs to be known by: about two lines. */
const LEAST = 6;
/** A page carries an original of which so much of its text stands there. */
const ENOUGH = 0.5;

/** The fingerprints of a page's text. */
export type Marks = ReadonlySet<number>;
export const marksOf = (page: Node): Marks =>
  new Set(
    lettersOf(page).flatMap(({ text }) =>
      winnow(hashesOf(text, GRAM), WINDOW).map(({ hash }) => hash),
    ),
  );

/**
 * How much of an original that a page does not come from stands on it: a share from 0 to 1; 0 where it is too little to be told.
 * @param from the original that the page does come from; null where it comes from none
 */
export function shareCarried(page: Marks, original: Marks, from: Marks | null): number {
  const own = [...original].filter((mark) => !from?.has(mark));
  if (own.length < LEAST) return 0;
  const share = own.filter((mark) => page.has(mark)).length / own.length;
  return share >= ENOUGH ? share : 0;
}

/**
 * Which of some originals a page carries: the one of which most stands there, for directions of one teacher are alike.
 * @returns null where it carries none of them
 */
export function carriedBy<T extends { marks: Marks }>(
  page: Marks,
  originals: readonly T[],
  from: Marks | null,
): T | null {
  let [best, most]: [T | null, number] = [null, 0];
  for (const one of originals) {
    const share = shareCarried(page, one.marks, from);
    if (share > most) [best, most] = [one, share];
  }
  return best;
}
