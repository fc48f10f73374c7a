import type { Node } from 'prosemirror-model';
import { Mapping, type Step, type StepMap } from 'prosemirror-transform';
import type { Anchor } from '../history/anchor';
import { wordsOf } from '../history/words-of';
import type { Offer } from './offer';

/** From the page after some changes back to the one before them. */
export function mapsBack(maps: readonly StepMap[]): Mapping {
  const back = new Mapping();
  for (const map of maps.toReversed()) back.appendMap(map.invert());
  return back;
}

/**
 * The words that something belongs to which is put in at a place: within a run of words the one before and the one after it;
 * where a sign stands between, as at the end of a sentence, the one before. Between blocks, the blocks.
 */
export function wordsBeside(page: Node, at: number): Anchor[] {
  const { parent, parentOffset, nodeBefore, nodeAfter } = page.resolve(at);
  if (!parent.isTextblock)
    return [
      ...(nodeBefore ? [{ from: at - nodeBefore.nodeSize, to: at }] : []),
      ...(nodeAfter ? [{ from: at, to: at + nodeAfter.nodeSize }] : []),
    ];
  const start = at - parentOffset;
  const all = wordsOf(parent);
  const words = all.flatMap(({ isWord, from }, index) => {
    const to = all[index + 1]?.from ?? parent.content.size;
    return isWord ? [{ from: start + from, to: start + to }] : [];
  });
  const last = words.findLast(({ from }) => from < at);
  const next = words.find(({ to }) => to > at);
  const before = last && { from: last.from, to: Math.min(at, last.to) };
  const after = next && { from: Math.max(at, next.from), to: next.to };
  const isRun = page.textBetween(before?.to ?? at, after?.from ?? at, null, '▫').trim() === '';
  if (before && after && isRun) return [before, after];
  return [before ?? after].filter((words) => words !== undefined);
}

/** The words that are taken out in part: those that a stretch of one line begins or ends in. */
export function wordsCut(page: Node, { from, to }: Anchor): Anchor[] {
  const [begin, end] = [page.resolve(from), page.resolve(to)];
  if (!begin.sameParent(end) || !begin.parent.isTextblock) return [];
  const all = wordsOf(begin.parent);
  return all.flatMap((word, index) => {
    const own = {
      from: begin.start() + word.from,
      to: begin.start() + (all[index + 1]?.from ?? begin.parent.content.size),
    };
    const isCut = [from, to].some((at) => own.from < at && at < own.to);
    return isCut ? [own] : [];
  });
}

/** What steps change of the page that they begin on: what they take out, and where they only put in. */
function touchedBy(steps: readonly Step[]): Anchor[] {
  const ranges: Anchor[] = [];
  const maps: StepMap[] = [];
  for (const step of steps) {
    const back = mapsBack(maps);
    const touch = (from: number, to: number) => {
      const start = back.map(from, 1);
      ranges.push({ from: start, to: Math.max(start, back.map(to, -1)) });
    };
    step.getMap().forEach(touch);
    maps.push(step.getMap());
  }
  return ranges;
}

/** The offer of these steps on a page, each of which is on the page as the ones before leave it. */
export function offerOf(page: Node, steps: readonly Step[]): Offer {
  const touched = touchedBy(steps);
  const takesOut = touched.filter(({ from, to }) => from < to);
  const beside = takesOut.length > 0 ? [] : touched.flatMap(({ from }) => wordsBeside(page, from));
  return { steps, takesOut, beside };
}
