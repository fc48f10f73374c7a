import { diffArrays } from 'diff';
import { Slice, Fragment, type Node } from 'prosemirror-model';
import { ReplaceStep } from 'prosemirror-transform';

/** A stretch of blocks in which an original changed since a page was adapted from it. */
export interface Piece {
  /** Names it as long as neither the original nor its place changes. */
  key: string;
  /** The original's blocks before and now; either may be none. */
  was: readonly Node[];
  is: readonly Node[];
  /** What the adapted page has there: blocks `from` to `to` of it. */
  mine: readonly Node[];
  from: number;
  to: number;
  /** Whether the adapted page had left these blocks as they were. */
  untouched: boolean;
}

const blocksOf = (page: Node) => [...page.content.content];
const written = (blocks: readonly Node[]) => blocks.map((block) => JSON.stringify(block.toJSON()));
const alike = (a: readonly string[], b: readonly string[]) => a.join('\n') === b.join('\n');

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

/** The stretches of blocks that differ between `a` and `b`. */
function hunksOf(a: readonly string[], b: readonly string[]) {
  const hunks: { a: [number, number]; b: [number, number] }[] = [];
  let [i, j] = [0, 0];
  let open: (typeof hunks)[number] | null = null;
  for (const { added, removed, value } of diffArrays([...a], [...b])) {
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

/**
 * What an adapted page could take over from its original, in the order of the page. What it has already is left out.
 * @param was the original as it was adapted
 * @param is the original now
 */
export function piecesOf(was: Node, is: Node, adapted: Node): Piece[] {
  const blocks = { was: blocksOf(was), is: blocksOf(is), mine: blocksOf(adapted) };
  const [a, b, v] = [written(blocks.was), written(blocks.is), written(blocks.mine)];
  const matches = matchesOf(a, v);
  return hunksOf(a, b).flatMap((hunk): Piece[] => {
    const [a0, a1] = hunk.a;
    const [b0, b1] = hunk.b;
    // The nearest blocks on both sides that the adapted page left as they were.
    let before = a0 - 1;
    while (before >= 0 && !matches.has(before)) before -= 1;
    let after = a1;
    while (after < a.length && !matches.has(after)) after += 1;
    const start = before < 0 ? 0 : (matches.get(before) ?? 0) + 1;
    const end = after >= a.length ? v.length : (matches.get(after) ?? v.length);
    const gap = after - before - 1;
    const coming = b.slice(b0, b1);
    const there =
      coming.length > 0
        ? v
            .slice(start, end)
            .some((_, i) => alike(v.slice(start + i, start + i + coming.length), coming))
        : end - start <= gap - (a1 - a0);
    if (there) return [];
    // Between them, block stands for block where their number is the same; else what is new comes behind.
    const aligned = end - start === gap;
    const added = a0 === a1 ? end : start;
    const from = aligned ? start + (a0 - before - 1) : added;
    const to = aligned ? from + (a1 - a0) : end;
    const here = v.slice(from, to);
    return [
      {
        key: `${b0} ${b.slice(b0, b1).join('')} ${a.slice(a0, a1).join('')}`,
        was: blocks.was.slice(a0, a1),
        is: blocks.is.slice(b0, b1),
        mine: blocks.mine.slice(from, to),
        from,
        to,
        untouched: alike(here, a.slice(a0, a1)),
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
