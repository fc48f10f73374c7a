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
import { mapsBack, touchedBy, wordsBeside } from './make-offer';

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

/** What a step does to the page before all of them: what it touches, marks included, and the words that hold what it puts in. */
interface Reach {
  touches: Anchor[];
  held: Anchor[];
}

function reachOf(page: Node, step: Step, before: readonly StepMap[]): Reach {
  const back = mapsBack(before);
  const touches: Anchor[] = [];
  const touch = (from: number, to: number) =>
    void touches.push({ from: back.map(from, -1), to: back.map(to, 1) });
  step.getMap().forEach(touch);
  if (step instanceof AddMarkStep || step instanceof RemoveMarkStep) touch(step.from, step.to);
  const held = touches.flatMap(({ from, to }) => (from === to ? wordsBeside(page, from) : []));
  return { touches, held };
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

/**
 * Divides what somebody wrote on a page into what can be taken or left one by one: what touches, or was done in one edit, is
 * together. Each group stands on the page alone, so that any of them can be taken without the others.
 */
export function separate(page: Node, edits: readonly EditStep[]): Group[] {
  const written = new Transform(page);
  const maps: StepMap[] = [];
  const groups: (Reach & { of: number[]; edits: Set<unknown> })[] = [];
  const waiting = edits.map(({ step, edit }, no): WaitingStep<number> => {
    const group = { of: [no], ...reachOf(page, step, maps), edits: new Set([edit]) };
    const near = groups.filter((one) => one.edits.has(edit) || areOne(one, group));
    for (const one of near) {
      group.of.push(...one.of);
      group.touches.push(...one.touches);
      group.held.push(...one.held);
      for (const each of one.edits) group.edits.add(each);
      groups.splice(groups.indexOf(one), 1);
    }
    group.of.sort((a, b) => a - b);
    groups.push(group);
    const before = written.doc;
    written.step(step);
    maps.push(step.getMap());
    return { step, inverted: step.invert(before), follows: false, origin: no };
  });
  const alone = (of: readonly number[]): Group | null => {
    const change = new Transform(written.doc);
    const left = rebaseWithout(waiting, [], change, (no) => !of.includes(no));
    if (left.length < of.length) return null;
    return {
      of,
      steps: inOne(
        page,
        change.doc,
        left.map(({ waiting: { step } }) => step),
      ),
    };
  };
  const found = groups.map(({ of }) => alone(of));
  if (found.every((group) => group !== null)) return found;
  // Something stands on what it does not touch. That is rare: then all is one.
  const all = edits.map((_, no) => no);
  return [
    {
      of: all,
      steps: inOne(
        page,
        written.doc,
        waiting.map(({ step }) => step),
      ),
    },
  ];
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
 */
function inOne(page: Node, meant: Node, steps: readonly Step[]): readonly Step[] {
  if (page.eq(meant)) return [];
  const [range, ...others] = joined(touchedBy(steps));
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
