import { diffArrays } from 'diff';
import { Slice, Fragment, type Node } from 'prosemirror-model';
import { ReplaceStep } from 'prosemirror-transform';
import { hunksOf, likeness, inPairs, type Pair } from './align';

/** A block of an original that changed, came or went since a page was adapted from it. */
export interface Piece {
  /** Names the change, wherever in the original it stands. */
  key: string;
  /** The original's block before and now; one of them may be none. */
  was: readonly Node[];
  is: readonly Node[];
  /** What the adapted page has there: blocks `from` to `to` of it. */
  mine: readonly Node[];
  from: number;
  to: number;
  /** Whether the adapted page had left it as it was. */
  untouched: boolean;
}

const blocksOf = (page: Node) => [...page.content.content];
const written = (blocks: readonly Node[]) => blocks.map((block) => JSON.stringify(block.toJSON()));
/** Where the blocks of `a` are found again, unchanged and in order, in `b`. */
function matchesOf(a: readonly string[], b: readonly string[]): Map<number, number> {
  const matches = new Map<number, number>();
  let [i, j] = [0, 0];
  for (const { added, removed, value } of diffArrays([...a], [...b])) {
    if (removed) i += value.length;
    else if (added) j += value.length;
    else for (let n = 0; n < value.length; n++) matches.set(i++, j++);
  }
  return matches;
}

/**
 * A block that the adapted page may have: one that the original kept; or of a change, the one before it or the one after.
 */
interface Slot {
  text: string;
  change: Pair | null;
  is: 'kept' | 'before' | 'after';
}

/** All blocks that an adapted page may have of its original, in order: an untouched one has them all but those after changes. */
function slotsOf(a: readonly string[], b: readonly string[]): Slot[] {
  const slots: Slot[] = [];
  let next = 0;
  const keepUpTo = (end: number) => {
    for (; next < end; next++) slots.push({ text: a[next] ?? '', change: null, is: 'kept' });
  };
  for (const hunk of hunksOf(a, b)) {
    keepUpTo(hunk.a[0]);
    for (const change of inPairs(hunk, (i, j) => likeness(a[i] ?? '', b[j] ?? ''))) {
      if (change.a !== null) slots.push({ text: a[change.a] ?? '', change, is: 'before' });
      if (change.b !== null) slots.push({ text: b[change.b] ?? '', change, is: 'after' });
    }
    next = hunk.a[1];
  }
  keepUpTo(a.length);
  return slots;
}

/**
 * What an adapted page could take over from its original, block by block, in the order of the original. What it has
 * already is left out.
 * @param was the original as it was adapted
 * @param is the original now
 */
export function piecesOf(was: Node, is: Node, adapted: Node): Piece[] {
  const blocks = { was: blocksOf(was), is: blocksOf(is), mine: blocksOf(adapted) };
  const [a, b, v] = [written(blocks.was), written(blocks.is), written(blocks.mine)];
  const slots = slotsOf(a, b);
  const places = matchesOf(
    slots.map(({ text }) => text),
    v,
  );
  const taken = new Set(
    slots.flatMap(({ change, is: which }, n) =>
      which === 'after' && places.has(n) ? [change] : [],
    ),
  );

  /** Which blocks of the adapted page the change at a slot is about; null where it has it already. */
  function placeOf(slot: number, change: Pair): { from: number; to: number } | null {
    if (taken.has(change)) return null;
    const stands = change.a === null ? undefined : places.get(slot);
    if (stands !== undefined) return { from: stands, to: stands + 1 };
    // Between the nearest blocks that the page has in common with its original, it has others of its own.
    let [before, after] = [slot - 1, slot + 1];
    while (before >= 0 && !places.has(before)) before -= 1;
    while (after < slots.length && !places.has(after)) after += 1;
    const start = before < 0 ? 0 : (places.get(before) ?? 0) + 1;
    const end = places.get(after) ?? v.length;
    const instead = Array.from({ length: after - before - 1 }, (_, n) => before + 1 + n).filter(
      (n) => slots[n]?.is !== 'after' && !taken.has(slots[n]?.change ?? null),
    );
    // Block stands for block where their number is the same.
    const aligned = instead.length === end - start;
    const from = aligned ? start + instead.filter((n) => n < slot).length : start;
    if (change.a === null) return aligned ? { from, to: from } : { from: end, to: end };
    if (aligned) return { from, to: from + 1 };
    return change.b === null && end - start < instead.length ? null : { from: start, to: end };
  }

  const times = new Map<string, number>();
  return slots.flatMap(({ change, is: which }, slot): Piece[] => {
    // A change is met once: where it has both, at the one before.
    if (!change || (which === 'after' && change.a !== null)) return [];
    const place = placeOf(slot, change);
    if (!place) return [];
    const { from, to } = place;
    const [i, j] = [change.a, change.b];
    const says = `${i === null ? '' : a[i]} → ${j === null ? '' : b[j]}`;
    // The same change in two places is two pieces.
    times.set(says, (times.get(says) ?? 0) + 1);
    const here = v.slice(from, to);
    return [
      {
        key: `${times.get(says)} ${says}`,
        was: i === null ? [] : blocks.was.slice(i, i + 1),
        is: j === null ? [] : blocks.is.slice(j, j + 1),
        mine: blocks.mine.slice(from, to),
        from,
        to,
        untouched: i === null ? here.length === 0 : here.length === 1 && here[0] === a[i],
      },
    ];
  });
}

/** The step by which an adapted page takes a piece over. */
export function applyPiece({ from, to, is }: Piece, adapted: Node): ReplaceStep {
  const at = (index: number) =>
    blocksOf(adapted)
      .slice(0, index)
      .reduce((sum, block) => sum + block.nodeSize, 0);
  // A page is never without a block.
  const empties = is.length === 0 && to - from === adapted.childCount;
  const blocks = empties ? adapted.type.createAndFill()?.content : Fragment.from([...is]);
  return new ReplaceStep(at(from), at(to), new Slice(blocks ?? Fragment.empty, 0, 0));
}
