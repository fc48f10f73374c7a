import { AttrStep, type Step } from 'prosemirror-transform';

/** Who wrote what stands from `from` to `to` (page positions, `to` excluded), in versions `first` to `last`. */
interface Run {
  from: number;
  to: number;
  author: string;
  first: number;
  last: number;
}

/** In the order of the page, without overlap. What an original brought along has no run: nobody of the class wrote it. */
export type Authorship = readonly Run[];

/** A step of the log with the version it made. */
export interface AuthoredStep {
  step: Step;
  author: string;
  version: number;
}

/**
 * One person's runs that touch are one when they were written within this many versions. So a run tells to about
 * half a minute when it was written; the log tells it to the letter.
 */
const SPAN = 50;

const areOne = (a: Run, b: Run) =>
  a.to === b.from &&
  a.author === b.author &&
  Math.max(a.last, b.last) - Math.min(a.first, b.first) < SPAN;

const joined = (a: Run, b: Run): Run => ({
  ...a,
  to: b.to,
  first: Math.min(a.first, b.first),
  last: Math.max(a.last, b.last),
});

/** What stands from `from` to `to`: written by a step, or as it stood before all of them, from the place `stood`. */
interface Piece {
  from: number;
  to: number;
  stood: number;
  written: Run | null;
}

/** The index of the first one that ends behind a place. */
function firstBehind(list: readonly { to: number }[], place: number): number {
  let [low, high] = [0, list.length];
  while (low < high) {
    const middle = (low + high) >>> 1;
    if ((list[middle]?.to ?? Infinity) > place) high = middle;
    else low = middle + 1;
  }
  return low;
}

/** Takes away what stood from `from` to `to` and puts there what `written` says. */
function replace(pieces: Piece[], from: number, to: number, written: Run) {
  const delta = written.to - written.from - (to - from);
  const start = firstBehind(pieces, from);
  const middle: Piece[] = [];
  const after: Piece[] = [];
  let end = start;
  for (let piece = pieces[end]; piece && piece.from < to; piece = pieces[++end]) {
    if (piece.from < from) middle.push({ ...piece, to: from });
    if (piece.to > to) after.push({ ...piece, from: to, stood: piece.stood + to - piece.from });
  }
  for (const piece of [...after, ...pieces.slice(end)]) {
    piece.from += delta;
    piece.to += delta;
  }
  if (written.to > written.from)
    middle.push({ from: written.from, to: written.to, stood: 0, written });
  middle.push(...after);
  pieces.splice(start, end - start, ...middle);
}

/**
 * Moves the runs on by steps in their order. What a step wrote is its author's; what it took away is gone; a run that
 * is written into is cut in two. A page has many more runs than steps that come at once: what these leave alone is
 * moved as one piece, and looked into at the end.
 */
export function moveOn(runs: Authorship, steps: readonly AuthoredStep[]): Authorship {
  const pieces: Piece[] = [{ from: 0, to: Infinity, stood: 0, written: null }];
  for (const { step, author, version } of steps) {
    const by = { author, first: version, last: version };
    // An option that is chosen, a piece that is moved: it is known who did it.
    if (step instanceof AttrStep)
      replace(pieces, step.pos, step.pos + 1, { from: step.pos, to: step.pos + 1, ...by });
    // Ranges come in order, so those before have been applied when the next one is: its place is the new one.
    step.getMap().forEach((oldFrom, oldTo, newFrom, newTo) => {
      replace(pieces, newFrom, newFrom + oldTo - oldFrom, { from: newFrom, to: newTo, ...by });
    });
  }
  const moved: Run[] = [];
  const add = (run: Run) => {
    const before = moved.at(-1);
    if (before && areOne(before, run)) moved[moved.length - 1] = joined(before, run);
    else moved.push(run);
  };
  for (const { from, to, stood, written } of pieces) {
    if (written) {
      add({ ...written, from, to });
      continue;
    }
    const shift = from - stood;
    for (let i = firstBehind(runs, stood); (runs[i]?.from ?? Infinity) < to - shift; i++) {
      const run = runs[i] as Run;
      add({ ...run, from: Math.max(from, run.from + shift), to: Math.min(to, run.to + shift) });
    }
  }
  return moved;
}
