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

function joinAt(runs: Run[], index: number) {
  const [a, b] = [runs[index], runs[index + 1]];
  if (!a || !b || !areOne(a, b)) return;
  a.to = b.to;
  a.first = Math.min(a.first, b.first);
  a.last = Math.max(a.last, b.last);
  runs.splice(index + 1, 1);
}

/** The index of the first run that ends behind a place. */
function firstBehind(runs: Authorship, place: number): number {
  let [low, high] = [0, runs.length];
  while (low < high) {
    const middle = (low + high) >>> 1;
    if ((runs[middle]?.to ?? Infinity) > place) high = middle;
    else low = middle + 1;
  }
  return low;
}

/** Takes away what stood from `from` to `to` and puts there what `written` (of the length `size`) says. */
function replace(runs: Run[], from: number, to: number, size: number, written: Run) {
  const delta = size - (to - from);
  const start = firstBehind(runs, from);
  const before: Run[] = [];
  const after: Run[] = [];
  let end = start;
  for (let run = runs[end]; run && run.from < to; run = runs[++end]) {
    if (run.from < from) before.push({ ...run, to: from });
    if (run.to > to) after.push({ ...run, from: to + delta, to: run.to + delta });
  }
  for (const run of runs.slice(end)) {
    run.from += delta;
    run.to += delta;
  }
  const middle = [...before, ...(size > 0 ? [written] : []), ...after];
  runs.splice(start, end - start, ...middle);
  for (let i = start + middle.length - 1; i >= start - 1; i--) joinAt(runs, i);
}

/**
 * Moves the runs on by steps in their order. What a step wrote is its author's; what it took away is gone; a run that
 * is written into is cut in two.
 */
export function moveOn(runs: Authorship, steps: readonly AuthoredStep[]): Authorship {
  const moved = runs.map((run) => ({ ...run }));
  for (const { step, author, version } of steps) {
    const by = { author, first: version, last: version };
    // An option that is chosen, a piece that is moved: it is known who did it.
    if (step instanceof AttrStep)
      replace(moved, step.pos, step.pos + 1, 1, { from: step.pos, to: step.pos + 1, ...by });
    // Ranges come in order, so those before have been applied when the next one is: its place is the new one.
    step.getMap().forEach((oldFrom, oldTo, newFrom, newTo) => {
      const written = { from: newFrom, to: newTo, ...by };
      replace(moved, newFrom, newFrom + oldTo - oldFrom, newTo - newFrom, written);
    });
  }
  return moved;
}
