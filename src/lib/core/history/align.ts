import { diffArrays } from 'diff';

/** A stretch that differs between two lists: from where to where in each, the end excluded. */
export interface Hunk {
  a: [number, number];
  b: [number, number];
}

/** Lists that differ in more than this are not looked at one by one: the time goes by the square of it. */
const MOST_CHANGES = 1_000;

/** All that lies between what two lists begin and end with alike. */
function allBetweenEnds(a: readonly string[], b: readonly string[]): Hunk {
  const least = Math.min(a.length, b.length);
  let start = 0;
  while (start < least && a[start] === b[start]) start++;
  let end = 0;
  while (end < least - start && a.at(-1 - end) === b.at(-1 - end)) end++;
  return { a: [start, a.length - end], b: [start, b.length - end] };
}

/** The stretches that differ between `a` and `b`, by the shortest list of changes (Myers 1986, as `diff` does it). */
export function hunksOf(a: readonly string[], b: readonly string[]): Hunk[] {
  const changes = diffArrays([...a], [...b], { maxEditLength: MOST_CHANGES });
  if (!changes) return [allBetweenEnds(a, b)];
  const hunks: Hunk[] = [];
  let [i, j] = [0, 0];
  let open: Hunk | null = null;
  for (const { added, removed, value } of changes) {
    if (!added && !removed) {
      open = null;
      i += value.length;
      j += value.length;
      continue;
    }
    if (!open) hunks.push((open = { a: [i, i], b: [j, j] }));
    if (removed) i += value.length;
    else j += value.length;
    open.a[1] = i;
    open.b[1] = j;
  }
  return hunks;
}

/** How much two texts have in common: the share of their words, and of what else they are written with, from 0 to 1. */
export function likeness(a: string, b: string): number {
  const [one, other] = [a, b].map((text) => new Set(text.split(/[^\p{L}\p{N}]+/u)));
  if (!one || !other) return 0;
  const common = [...one].filter((word) => other.has(word)).length;
  return common / (one.size + other.size - common);
}

/** One of a list that became one of another, came or went. Null for none. */
export interface Pair {
  a: number | null;
  b: number | null;
}

/** Beyond so many pairs, they are taken one after the other as they stand. */
const MOST_PAIRS = 2_500;

interface Best {
  i: number;
  j: number;
  like: number;
}

function mostAlike({ a, b }: Hunk, like: (i: number, j: number) => number): Best | null {
  if ((a[1] - a[0]) * (b[1] - b[0]) > MOST_PAIRS) return null;
  let best: Best | null = null;
  for (let i = a[0]; i < a[1]; i++)
    for (let j = b[0]; j < b[1]; j++) {
      const found = like(i, j);
      if (found > (best?.like ?? 0)) best = { i, j, like: found };
    }
  return best;
}

/** One after the other, as they stand. */
export const inTurn = ({ a: [a0, a1], b: [b0, b1] }: Hunk): Pair[] =>
  Array.from({ length: Math.max(a1 - a0, b1 - b0) }, (_, n) => ({
    a: a0 + n < a1 ? a0 + n : null,
    b: b0 + n < b1 ? b0 + n : null,
  }));

/** Which one of a hunk became which: those most alike, in order; what is left between them, one after the other. */
export function inPairs(hunk: Hunk, like: (i: number, j: number) => number): Pair[] {
  const { a, b } = hunk;
  const best = a[1] - a[0] === b[1] - b[0] ? null : mostAlike(hunk, like);
  if (!best) return inTurn(hunk);
  return [
    ...inPairs({ a: [a[0], best.i], b: [b[0], best.j] }, like),
    { a: best.i, b: best.j },
    ...inPairs({ a: [best.i + 1, a[1]], b: [best.j + 1, b[1]] }, like),
  ];
}

/** Which one of a hunk became which: those most alike, in order; what is like nothing came or went. */
export function inAlikePairs(hunk: Hunk, like: (i: number, j: number) => number): Pair[] {
  const best = mostAlike(hunk, like);
  const { a, b } = hunk;
  if (!best) return [...inTurn({ a, b: [b[0], b[0]] }), ...inTurn({ a: [a[1], a[1]], b })];
  return [
    ...inAlikePairs({ a: [a[0], best.i], b: [b[0], best.j] }, like),
    { a: best.i, b: best.j },
    ...inAlikePairs({ a: [best.i + 1, a[1]], b: [best.j + 1, b[1]] }, like),
  ];
}
