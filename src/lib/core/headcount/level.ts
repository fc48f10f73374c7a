import { PAUSE } from '../history/sittings';
import { counted } from '../lists/counted';

/** What is lost at once: words that were written, or strokes that were drawn. */
type Lost = { words: number } | { strokes: number };

/** Work that went at once: how the page stood at its fullest, and what was left. */
export type Loss = Lost & {
  /** The version that had the most. */
  version: number;
  /** How much was left when it fell, and when that was, in epoch milliseconds. */
  left: number;
  at: number;
};

/** How much is written and drawn on a page, as far as a loss is told from it. */
export interface Level {
  /** Of the last change. */
  at: number;
  version: number;
  words: number;
  strokes: number;
  /** The most that stood in its sitting, or when that began. */
  peak: { version: number; words: number };
  drawnPeak: { version: number; strokes: number };
  loss: Loss | null;
}

/** A page after a transaction that changed it. */
interface Written {
  /** Epoch milliseconds. */
  at: number;
  version: number;
  /** What was written and drawn on it, without what the page asks. */
  words: number;
  strokes: number;
}

/** Fewer words are soon written again, and fewer strokes drawn: nobody is asked about them. */
const LEAST = 20;
/** A page is emptied when less than a fifth is left of what stood there in one sitting. */
const FEW = 0.2;
/** It is no gap any more when half of it stands there again. */
const ENOUGH = 0.5;

/** The level of a page before its first change. */
export const firstLevel = ({ version, words, strokes }: Omit<Written, 'at'>): Level => ({
  at: -Infinity,
  version,
  words,
  strokes,
  peak: { version, words },
  drawnPeak: { version, strokes },
  loss: null,
});

/** The level of a page after one more change. */
export function nextLevel(level: Level, now: Written): Level {
  const { version, words, strokes } = now;
  const begins = now.at - level.at > PAUSE;
  const wrote = begins ? { version: level.version, words: level.words } : level.peak;
  const drew = begins ? { version: level.version, strokes: level.strokes } : level.drawnPeak;
  const peak = words >= wrote.words ? { version, words } : wrote;
  const drawnPeak = strokes >= drew.strokes ? { version, strokes } : drew;
  return { ...now, peak, drawnPeak, loss: lossOf(level.loss, { peak, drawnPeak }, now) };
}

/** How many words or strokes went. */
const sizeOf = (lost: Lost): number => ('words' in lost ? lost.words : lost.strokes);

/** What went, in words: "231 words". */
export const sayLost = (lost: Lost): string =>
  counted(sizeOf(lost), 'words' in lost ? 'word' : 'stroke');

function lossOf(
  known: Loss | null,
  { peak, drawnPeak }: Pick<Level, 'peak' | 'drawnPeak'>,
  { at, words, strokes }: Written,
): Loss | null {
  const stands = known && 'words' in known ? words : strokes;
  const stays = known && stands < sizeOf(known) * ENOUGH ? [known] : [];
  const falls: Loss[] = [
    { ...peak, left: words, at },
    { ...drawnPeak, left: strokes, at },
  ].filter((loss) => sizeOf(loss) >= LEAST && loss.left < sizeOf(loss) * FEW);
  // Of several losses the greatest is shown: the others can be found on the line.
  return [...stays, ...falls].reduce<Loss | null>(
    (most, one) => (most && sizeOf(most) >= sizeOf(one) ? most : one),
    null,
  );
}
