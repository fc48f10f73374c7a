import { Fragment, type Node } from 'prosemirror-model';
import { isAnswer } from '../page/schema';
import { hunksOf, inAlikePairs, inTurn, likeness, type Pair } from './align';
import { wordsOf, type Word } from './words-of';

/** Page positions, `to` excluded; an empty one says where something would stand. */
export interface Range {
  from: number;
  to: number;
}

/**
 * One place where two pages differ. `formatted`: the same words with other marks, or as another kind of block; `set`: what
 * is no text, such as a chosen option.
 */
export interface Difference {
  kind: 'inserted' | 'removed' | 'replaced' | 'formatted' | 'set';
  /** In the first page. */
  was: Range;
  /** In the second page. */
  is: Range;
  /** The difference at the other end of a move, by its place in the list: what was removed is inserted there. */
  moved: number | null;
}

/** What of a difference is taken over from the second page: a range of its `is`, or null for nothing of it. */
export type Take = (difference: Difference) => Range | null;

type Found = Omit<Difference, 'moved'>;

/** Less alike than this, a block is not another one changed: it went, and the other came. */
const ALIKE = 0.3;
/** What is moved has at least so many words; fewer are written twice by chance. */
const LEAST_MOVED = 3;

const json = (node: Node) => JSON.stringify(node.toJSON());
const isCell = ({ type }: Node) => type.name === 'table_cell' || type.name === 'table_header';
const sameKind = (a: Node, b: Node) =>
  a.type === b.type ||
  (isCell(a) && isCell(b)) ||
  (a.isTextblock && b.isTextblock && !isAnswer(a) && !isAnswer(b));

/** A row of a table is known by its first cell. */
const isSameRow = (a: Node, b: Node) =>
  a.type.name === 'table_row' &&
  a.firstChild?.textContent !== '' &&
  a.firstChild?.textContent === b.firstChild?.textContent;

/** How much one node may be another one changed, from 0: not at all. What has an id is that very one. */
function likenessOf(a: Node, b: Node, alone: boolean): number {
  if (!sameKind(a, b)) return 0;
  if (a.attrs.id || b.attrs.id) return a.attrs.id === b.attrs.id ? 2 : 0;
  if (a.isLeaf) return a.type.name === 'picture' && a.attrs.file === b.attrs.file ? 1 : 0;
  if (alone || isSameRow(a, b)) return 1;
  const like = likeness(
    a.textBetween(0, a.content.size, ' '),
    b.textBetween(0, b.content.size, ' '),
  );
  return like < ALIKE ? 0 : like;
}

/** What is put in can be cut where it holds nothing but lines of text. */
function canBeCut(node: Node): boolean {
  if (node.isLeaf || isAnswer(node) || node.type.name === 'table') return false;
  return node.isTextblock || node.children.every(canBeCut);
}

/** Compares two pages and builds a third from both: what they share, and of each difference what is taken. */
class Comparison {
  readonly found: Found[] = [];

  constructor(private readonly take: Take) {}

  private taken(difference: Found): Range | null {
    this.found.push(difference);
    return this.take({ ...difference, moved: null });
  }

  /** @param was where `a` begins in the first page @param is where `b` begins in the second */
  private pair(a: Node, b: Node, was: number, is: number): Node {
    if (a.isText || a.eq(b)) return a;
    let shape = a;
    if (!a.sameMarkup(b)) {
      const kind = a.isTextblock && !('id' in a.attrs) ? 'formatted' : 'set';
      const ranges = {
        was: { from: was, to: was + a.nodeSize },
        is: { from: is, to: is + b.nodeSize },
      };
      if (this.taken({ kind, ...ranges })) shape = b;
    }
    return shape.type.create(shape.attrs, this.content(a, b, was + 1, is + 1), shape.marks);
  }

  /** @param was where the content of `a` begins in the first page @param is where that of `b` does in the second */
  content(a: Node, b: Node, was: number, is: number): Fragment {
    return a.isTextblock && b.isTextblock ? this.line(a, b, was, is) : this.blocks(a, b, was, is);
  }

  private blocks(a: Node, b: Node, was: number, is: number): Fragment {
    const [mine, theirs] = [a.children, b.children];
    const starts = (nodes: readonly Node[], from: number) => {
      const places = [from];
      for (const node of nodes) places.push((places.at(-1) ?? 0) + node.nodeSize);
      return places;
    };
    const [wasAt, isAt] = [starts(mine, was), starts(theirs, is)];
    const built: Node[] = [];
    const both = ({ a: i, b: j }: Pair) => {
      const [one, other] = [mine[i ?? -1], theirs[j ?? -1]];
      if (one && other) built.push(this.pair(one, other, wasAt[i ?? 0] ?? 0, isAt[j ?? 0] ?? 0));
    };
    const alone = ({ a: i, b: j }: Pair, [hereA, hereB]: [number, number]) => {
      const node = i === null ? theirs[j ?? -1] : mine[i];
      if (!node) return;
      const from = (i === null ? isAt[j ?? 0] : wasAt[i]) ?? 0;
      const whole = { from, to: from + node.nodeSize };
      if (i === null) {
        const at = wasAt[hereA] ?? 0;
        const range = this.taken({ kind: 'inserted', was: { from: at, to: at }, is: whole });
        if (range) built.push(cutTo(node, from, range));
      } else {
        const at = isAt[hereB] ?? 0;
        if (!this.taken({ kind: 'removed', was: whole, is: { from: at, to: at } }))
          built.push(node);
      }
    };
    let [i, j] = [0, 0];
    const inRow = a.type.name === 'table_row' && mine.length === theirs.length;
    const hunks = inRow
      ? [{ a: [0, mine.length] as [number, number], b: [0, theirs.length] as [number, number] }]
      : hunksOf(mine.map(json), theirs.map(json));
    for (const hunk of hunks) {
      for (; i < hunk.a[0]; i++, j++) both({ a: i, b: j });
      const single = hunk.a[1] - hunk.a[0] === 1 && hunk.b[1] - hunk.b[0] === 1;
      const pairs = inRow
        ? inTurn(hunk)
        : inAlikePairs(hunk, (one, other) => {
            const [x, y] = [mine[one], theirs[other]];
            return x && y ? likenessOf(x, y, single) : 0;
          });
      for (const pair of pairs) {
        if (pair.a !== null && pair.b !== null) both(pair);
        else alone(pair, [i, j]);
        if (pair.a !== null) i = pair.a + 1;
        if (pair.b !== null) j = pair.b + 1;
      }
    }
    for (; i < mine.length; i++, j++) both({ a: i, b: j });
    return Fragment.from(built);
  }

  private line(a: Node, b: Node, was: number, is: number): Fragment {
    const [mine, theirs] = [wordsOf(a), wordsOf(b)];
    let built = Fragment.empty;
    const add = (node: Node, from: number, to: number) =>
      void (built = built.append(node.content.cut(from, to)));
    let [i, j] = [0, 0];
    /** Words that stand in both, whose marks may differ. */
    const same = (end: number) => {
      while (i < end) {
        const differs = mine[i]?.marks !== theirs[j]?.marks;
        const [from, isFrom] = [startOf(mine, i, a), startOf(theirs, j, b)];
        while (i < end && (mine[i]?.marks !== theirs[j]?.marks) === differs) {
          i++;
          j++;
        }
        const [to, isTo] = [startOf(mine, i, a), startOf(theirs, j, b)];
        const ranges = {
          was: { from: was + from, to: was + to },
          is: { from: is + isFrom, to: is + isTo },
        };
        if (differs && this.taken({ kind: 'formatted', ...ranges })) add(b, isFrom, isTo);
        else add(a, from, to);
      }
    };
    for (const hunk of joined(
      hunksOf(
        mine.map(({ key }) => key),
        theirs.map(({ key }) => key),
      ),
      mine,
      theirs,
    )) {
      same(hunk.a[0]);
      const [from, to] = [startOf(mine, hunk.a[0], a), startOf(mine, hunk.a[1], a)];
      const [isFrom, isTo] = [startOf(theirs, hunk.b[0], b), startOf(theirs, hunk.b[1], b)];
      const kind = from === to ? 'inserted' : isFrom === isTo ? 'removed' : 'replaced';
      const range = this.taken({
        kind,
        was: { from: was + from, to: was + to },
        is: { from: is + isFrom, to: is + isTo },
      });
      if (range === null) add(a, from, to);
      else if (kind === 'inserted')
        add(b, Math.max(isFrom, range.from - is), Math.min(isTo, range.to - is));
      else add(b, isFrom, isTo);
      [i, j] = [hunk.a[1], hunk.b[1]];
    }
    same(mine.length);
    return built;
  }
}

const startOf = (words: readonly Word[], index: number, line: Node) =>
  words[index]?.from ?? line.content.size;

/** What of a node lies in a range, where it can be cut; otherwise all of it. */
function cutTo(node: Node, at: number, { from, to }: Range): Node {
  if (!canBeCut(node)) return node;
  return node.cut(Math.max(0, from - at - 1), Math.min(node.content.size, to - at - 1));
}

type Hunks = ReturnType<typeof hunksOf>;

/** Two changes with nothing but spaces and signs between them are read as one. */
function joined(hunks: Hunks, mine: readonly Word[], theirs: readonly Word[]): Hunks {
  const joint: Hunks = [];
  for (const hunk of hunks) {
    const last = joint.at(-1);
    const between = last && mine.slice(last.a[1], hunk.a[0]);
    if (last && between?.every(({ isWord }) => !isWord)) {
      last.a[1] = hunk.a[1];
      last.b[1] = hunk.b[1];
    } else joint.push(hunk);
  }
  for (const { a, b } of joint) {
    const isSame = (i: number, j: number) => mine[i]?.key === theirs[j]?.key;
    while (a[0] < a[1] && b[0] < b[1] && isSame(a[1] - 1, b[1] - 1)) {
      a[1]--;
      b[1]--;
    }
  }
  return joint;
}

/** Marks what was removed in one place and inserted in another, block by block or as words. */
function withMoves(a: Node, b: Node, found: readonly Found[]): Difference[] {
  const differences = found.map((one): Difference => ({ ...one, moved: null }));
  const textOf = (page: Node, { from, to }: Range) => page.textBetween(from, to, '\n', '￼').trim();
  const isLong = (text: string) => text.split(/\s+/).length >= LEAST_MOVED;
  const gone = new Map<string, number[]>();
  differences.forEach(({ kind, was }, index) => {
    if (kind !== 'removed') return;
    const text = textOf(a, was);
    if (isLong(text)) gone.set(text, [...(gone.get(text) ?? []), index]);
  });
  differences.forEach((difference, index) => {
    if (difference.kind !== 'inserted') return;
    const from = gone.get(textOf(b, difference.is))?.shift();
    const other = from === undefined ? undefined : differences[from];
    if (from === undefined || !other) return;
    difference.moved = from;
    other.moved = index;
  });
  return differences;
}

const whole: Take = ({ is }) => is;

/**
 * Where two pages differ, in the order of the page. Blocks are paired by what they say, and by their ids; paired ones are
 * compared word by word.
 */
export function compare(a: Node, b: Node): Difference[] {
  const comparison = new Comparison(whole);
  comparison.content(a, b, 0, 0);
  return withMoves(a, b, comparison.found);
}

/** The first page with what is taken of each difference from the second: of all of them, it is the second. */
export const merged = (a: Node, b: Node, take: Take): Node =>
  a.copy(new Comparison(take).content(a, b, 0, 0));

/**
 * A page with one passage as it stands in another: what lies in `passage` of the other page comes back, and what stands
 * now inside of it goes.
 */
export const withPassage = (now: Node, then: Node, passage: Range): Node =>
  merged(now, then, ({ is }) => {
    if (is.from === is.to) return passage.from < is.from && is.from < passage.to ? is : null;
    const from = Math.max(is.from, passage.from);
    const to = Math.min(is.to, passage.to);
    return from < to ? { from, to } : null;
  });
