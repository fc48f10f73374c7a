import type { Node } from 'prosemirror-model';
import {
  AddMarkStep,
  RemoveMarkStep,
  ReplaceStep,
  Transform,
  type Step,
  type StepMap,
} from 'prosemirror-transform';
import type { Anchor } from '../history/anchor';
import { rebaseWithout, type WaitingStep } from '../history/rebase';
import { joined } from '../history/changed-ranges';
import { wordsOf, type Word } from '../history/words-of';
import { mapsBack, wordsBeside, wordsCut } from './make-offer';

/** A step of somebody who writes what they propose, and what it was done together with. */
export interface EditStep {
  step: Step;
  edit: unknown;
}

/** What belongs together of what somebody wrote: one thing to take or to leave. */
interface Group {
  /** Its places among the steps. */
  of: readonly number[];
  /** On the page without the other groups; none where it comes to nothing. */
  steps: readonly Step[];
}

/**
 * What edits do to the page before all of them: what they touch, marks included, and the words that hold what they put in, or
 * lose a part.
 */
interface Reach {
  touches: Anchor[];
  held: Anchor[];
}

function reachOf(page: Node, step: Step, before: readonly StepMap[]): Reach {
  const back = mapsBack(before);
  const touches = rangesOf(step).map(({ from, to }) => ({
    from: back.map(from, -1),
    to: back.map(to, 1),
  }));
  const isOfMarks = step instanceof AddMarkStep || step instanceof RemoveMarkStep;
  const held = touches.flatMap((one) => {
    if (one.from === one.to) return wordsBeside(page, one.from);
    // A word that loses letters is proposed as a whole.
    return isOfMarks ? [] : wordsCut(page, one);
  });
  return { touches, held };
}

/** What a step changes of the page that it is made on, marks included. */
function rangesOf(step: Step): Anchor[] {
  const ranges: Anchor[] = [];
  step.getMap().forEach((from, to) => void ranges.push({ from, to }));
  if (step instanceof AddMarkStep || step instanceof RemoveMarkStep)
    ranges.push({ from: step.from, to: step.to });
  return ranges;
}

const areOne = (a: Reach, b: Reach) =>
  a.touches.some((one) =>
    b.touches.some((other) => one.from <= other.to && other.from <= one.to),
  ) ||
  takes(a, b) ||
  takes(b, a);

/** Whether one takes out words that hold what the other puts in. */
const takes = ({ touches }: Reach, { held }: Reach) =>
  touches.some((one) => held.some((words) => one.from < words.to && words.from < one.to));

/** Edits that belong together, while they are gathered. */
interface Gathered extends Reach {
  of: number[];
  edits: Set<unknown>;
  /** From its first place to its last, in the page as it is by then. */
  now: Anchor;
}

/** What a group spans after a step. */
const spanned = ({ from, to }: Anchor, map: StepMap): Anchor => ({
  from: map.map(from, -1),
  to: map.map(to, 1),
});

/** Puts each step to those that it belongs to. */
function gather(page: Node, edits: readonly EditStep[]): Gathered[] {
  const maps: StepMap[] = [];
  let groups: Gathered[] = [];
  edits.forEach(({ step, edit }, no) => {
    const map = step.getMap();
    const ranges = rangesOf(step);
    // Who types on, or takes a letter back, is where they were: most steps are like that.
    const [here, ...others] = groups.filter(({ now }) =>
      ranges.some(({ from, to }) => now.from <= to && from <= now.to),
    );
    const isWithin =
      here &&
      others.length === 0 &&
      here.touches.length === 1 &&
      ranges.every(({ from, to }) => here.now.from <= from && to <= here.now.to) &&
      groups.every((one) => one === here || !one.edits.has(edit));
    if (isWithin) {
      here.of.push(no);
      here.edits.add(edit);
    } else {
      const reach = reachOf(page, step, maps);
      const group: Gathered = {
        of: [no],
        ...reach,
        edits: new Set([edit]),
        now: {
          from: Math.min(...ranges.map(({ from }) => from)),
          to: Math.max(...ranges.map(({ to }) => to)),
        },
      };
      for (const one of groups.filter((one) => one.edits.has(edit) || areOne(one, group))) {
        group.of.unshift(...one.of);
        group.touches.push(...one.touches);
        group.held.push(...one.held);
        for (const each of one.edits) group.edits.add(each);
        group.now.from = Math.min(group.now.from, one.now.from);
        group.now.to = Math.max(group.now.to, one.now.to);
        groups = groups.filter((other) => other !== one);
      }
      group.of.sort((a, b) => a - b);
      group.touches = joined(group.touches);
      groups.push(group);
    }
    for (const group of groups) group.now = spanned(group.now, map);
    maps.push(map);
  });
  return groups;
}

/**
 * Divides what somebody wrote on a page into what can be taken or left one by one: what touches, or was done in one edit, is
 * together. Each group stands on the page alone, so that any of them can be taken without the others.
 */
export function separate(page: Node, edits: readonly EditStep[]): Group[] {
  const written = new Transform(page);
  const waiting = edits.map(({ step }, no): WaitingStep<number> => {
    const before = written.doc;
    written.step(step);
    return { step, inverted: step.invert(before), follows: false, origin: no };
  });
  const all = edits.map((_, no) => no);
  const together = (touches: readonly Anchor[]): Group => ({
    of: all,
    steps: inOne(
      page,
      written.doc,
      edits.map(({ step }) => step),
      touches,
    ),
  });
  const groups = gather(page, edits);
  const [only, ...others] = groups;
  if (only && others.length === 0) return [together(only.touches)];
  const found = groups.map(({ of, touches }): Group | null => {
    const change = new Transform(written.doc);
    const left = rebaseWithout(waiting, [], change, (no) => !of.includes(no));
    if (left.length < of.length) return null;
    const steps = left.map(({ waiting: { step } }) => step);
    return { of, steps: inOne(page, change.doc, steps, touches) };
  });
  if (found.every((group) => group !== null)) return found;
  // Something stands on what it does not touch. That is rare: then all is one.
  return [together(groups.flatMap(({ touches }) => touches))];
}

/** Where two lines begin to differ and where, before their ends, they stop, in whole words; all places within the lines. */
function differingWords(line: Node, into: Node): { from: number; to: number; end: number } {
  const [was, is] = [wordsOf(line), wordsOf(into)];
  const same = (one?: Word, other?: Word) => one?.key === other?.key && one?.marks === other?.marks;
  const most = Math.min(was.length, is.length);
  let first = 0;
  while (first < most && same(was[first], is[first])) first++;
  let last = 0;
  while (last < most - first && same(was.at(-1 - last), is.at(-1 - last))) last++;
  const size = line.content.size;
  const to = was[was.length - last]?.from ?? size;
  return { from: was[first]?.from ?? size, to, end: into.content.size - (size - to) };
}

/**
 * Steps that only replace, at one place, are one, over whole words: who typed "goes" over "go", letter by letter and with a
 * slip, proposes "goes" for "go".
 * @param touches what the steps touch of the page
 */
function inOne(
  page: Node,
  meant: Node,
  steps: readonly Step[],
  touches: readonly Anchor[],
): readonly Step[] {
  if (page.eq(meant)) return [];
  const [range, ...others] = joined(touches);
  if (!range || others.length > 0 || !steps.every((step) => step instanceof ReplaceStep))
    return steps;
  let { from, to } = range;
  let end = to + meant.content.size - page.content.size;
  const [a, b] = [page.resolve(from), page.resolve(to)];
  const [c, d] = [meant.resolve(from), meant.resolve(end)];
  if (a.sameParent(b) && c.sameParent(d) && a.parent.isTextblock && c.parent.isTextblock) {
    const words = differingWords(a.parent, c.parent);
    const start = a.start();
    // What only puts words in stays where it was put.
    if (from < to || words.from < words.to)
      [from, to, end] = [start + words.from, start + words.to, start + words.end];
  }
  const one = new ReplaceStep(from, to, meant.slice(from, end));
  return one.apply(page).doc?.eq(meant) ? [one] : steps;
}
