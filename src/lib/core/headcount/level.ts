import { PAUSE } from '../history/sittings';
import { counted } from '../lists/counted';
import { samplePairs, shareLeft } from './word-pairs';

/** What is lost at once: words that were written, or strokes that were drawn. */
type Lost = { words: number } | { strokes: number };

/** Work that went at once: how the page stood at its fullest, and what was left. */
export type Loss = Lost & {
  /** The version that had the most. */
  version: number;
  /** How much was left when it fell, and when that was, in epoch milliseconds. */
  left: number;
  at: number;
  /** How many words were pasted in when it fell, or since; none where it is left out. */
  pasted?: number;
  /** Of words: a sample of the pairs that stood before, by which it is known whether they are back. */
  pairs?: readonly number[];
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
  /** How many words pastes brought. */
  pasted: number;
  /** The word pairs that stood before and that stand now; null where that cannot matter. */
  pairs: { before: ReadonlySet<number>; now: ReadonlySet<number> } | null;
}

/** Fewer words are soon written again, and fewer strokes drawn: nobody is asked about them. */
const LEAST = 20;
/** A page is emptied when less than a fifth is left of what stood there in one sitting. */
const FEW = 0.2;
/** It is no gap any more when half of it stands there again. */
const ENOUGH = 0.5;

/** The level of a page before its first change. */
export const firstLevel = ({
  version,
  words,
  strokes,
}: Pick<Written, 'version' | 'words' | 'strokes'>): Level => ({
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
  const { at, version, words, strokes } = now;
  const begins = now.at - level.at > PAUSE;
  const wrote = begins ? { version: level.version, words: level.words } : level.peak;
  const drew = begins ? { version: level.version, strokes: level.strokes } : level.drawnPeak;
  const peak = words >= wrote.words ? { version, words } : wrote;
  const drawnPeak = strokes >= drew.strokes ? { version, strokes } : drew;
  const loss = lossOf(level, { peak, drawnPeak }, now);
  return { at, version, words, strokes, peak, drawnPeak, loss };
}

/** Whether the word pairs of a change are looked at: it pasted something, words went, or some are missing. */
export const asksForPairs = (level: Level, now: Pick<Written, 'words' | 'pasted'>): boolean =>
  now.pasted > 0 || level.loss !== null || now.words < level.words;

/** How many words or strokes went. */
const sizeOf = (lost: Lost): number => ('words' in lost ? lost.words : lost.strokes);

/** What went, in words: "231 words". */
export const sayLost = (lost: Lost): string =>
  counted(sizeOf(lost), 'words' in lost ? 'word' : 'stroke');

/** Whether a page lost its words to a paste, rather than to nothing. */
export const isPastedOver = (loss: Loss): boolean =>
  'words' in loss && (loss.pasted ?? 0) >= loss.words * FEW;

function lossOf(
  { loss: known, version, words: stood }: Level,
  { peak, drawnPeak }: Pick<Level, 'peak' | 'drawnPeak'>,
  now: Written,
): Loss | null {
  const { at, words, strokes, pasted, pairs } = now;
  const sample = pairs && { pairs: samplePairs(pairs.before) };
  const falls: Loss[] = [
    { ...peak, left: words, at, ...sample, ...(pasted > 0 && { pasted }) },
    { ...drawnPeak, left: strokes, at },
  ].filter((loss) => sizeOf(loss) >= LEAST && loss.left < sizeOf(loss) * FEW);
  // A paste may leave as many words as there were: not one of them is theirs.
  if (pasted > 0 && pairs && stood >= LEAST) {
    const kept = shareLeft(pairs.before, pairs.now);
    if (kept < FEW && words >= stood * FEW)
      falls.push({ version, words: stood, left: Math.round(stood * kept), at, pasted, ...sample });
  }
  const stays = known && stillLost(known, now);
  // Of several losses the greatest is shown: the others can be found on the line.
  return [...(stays ? [stays] : []), ...falls].reduce<Loss | null>(
    (most, one) => (most && sizeOf(most) >= sizeOf(one) ? most : one),
    null,
  );
}

/** A known loss after one more change; null when half of it stands again: as it was, or written anew and not pasted. */
function stillLost(known: Loss, { words, strokes, pasted, pairs }: Written): Loss | null {
  if (!('words' in known)) return strokes < known.strokes * ENOUGH ? known : null;
  const brought = (known.pasted ?? 0) + pasted;
  const isBack =
    known.pairs !== undefined && pairs !== null && shareLeft(known.pairs, pairs.now) >= ENOUGH;
  if (isBack || words - brought >= known.words * ENOUGH) return null;
  return brought > 0 ? { ...known, pasted: brought } : known;
}
