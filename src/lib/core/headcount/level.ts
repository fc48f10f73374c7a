import { PAUSE } from '../history/sittings';

/** Work that went at once: how the page stood, and what was left. */
export interface Loss {
  /** The version that had the most words, and how many. */
  version: number;
  words: number;
  /** How many were left when it fell, and when that was, in epoch milliseconds. */
  left: number;
  at: number;
}

/** How much is written on a page, as far as a loss is told from it. */
export interface Level {
  /** Of the last change. */
  at: number;
  version: number;
  words: number;
  /** The most that stood in its sitting, or when that began. */
  peak: { version: number; words: number };
  loss: Loss | null;
}

/** A page after a transaction that changed it. */
interface Written {
  /** Epoch milliseconds. */
  at: number;
  version: number;
  /** What was written on it, without what the page asks. */
  words: number;
}

/** Fewer words are soon written again: nobody is asked about them. */
const LEAST_WORDS = 20;
/** A page is emptied when less than a fifth is left of what stood there in one sitting. */
const FEW = 0.2;
/** It is no gap any more when half of it stands there again. */
const ENOUGH = 0.5;

/** The level of a page before its first change. */
export const firstLevel = ({ version, words }: Omit<Written, 'at'>): Level => ({
  at: -Infinity,
  version,
  words,
  peak: { version, words },
  loss: null,
});

/** The level of a page after one more change. */
export function nextLevel(level: Level, { at, version, words }: Written): Level {
  const begins = at - level.at > PAUSE;
  const before = begins ? { version: level.version, words: level.words } : level.peak;
  const peak = words >= before.words ? { version, words } : before;
  return { at, version, words, peak, loss: lossOf(level.loss, peak, { at, version, words }) };
}

function lossOf(known: Loss | null, peak: Level['peak'], { at, words }: Written): Loss | null {
  const stays = known && words < known.words * ENOUGH ? known : null;
  const falls = peak.words >= LEAST_WORDS && words < peak.words * FEW;
  // Of two losses the greater one is shown: the other can be found on the line.
  if (!falls || (stays && stays.words >= peak.words)) return stays;
  return { ...peak, left: words, at };
}
