import type { Node } from 'prosemirror-model';
import type { Authorship } from './authorship';
import { compare, type Difference, type Range } from './compare';

/** What two pages have in common: places of the second, and how far before them the same stands in the first. */
interface Shared extends Range {
  shift: number;
}

function sharedBy(size: number, differences: readonly Difference[]): Shared[] {
  const shared: Shared[] = [];
  let [from, shift] = [0, 0];
  // Marks and kinds of blocks move nothing.
  for (const { kind, was, is } of differences) {
    if (kind === 'formatted' || kind === 'set') continue;
    if (is.from > from) shared.push({ from, to: is.from, shift });
    from = is.to;
    shift = is.to - was.to;
  }
  if (size > from) shared.push({ from, to: size, shift });
  return shared;
}

/** The runs of a page, as far as another shares what they stand on, at their places there. */
const carriedOver = (runs: Authorship, shared: readonly Shared[]): Authorship =>
  shared.flatMap(({ from, to, shift }) =>
    runs.flatMap((run) => {
      const at = { from: Math.max(from, run.from + shift), to: Math.min(to, run.to + shift) };
      return at.from < at.to ? [{ ...run, ...at }] : [];
    }),
  );

/** Places that none of some ordered ranges covers. */
function besides(size: number, ranges: readonly Range[]): Range[] {
  const left: Range[] = [];
  let from = 0;
  for (const range of ranges) {
    if (range.from > from) left.push({ from, to: range.from });
    from = Math.max(from, range.to);
  }
  if (size > from) left.push({ from, to: size });
  return left;
}

/** A page with who wrote what of it. */
export interface AuthoredPage {
  doc: Node;
  authorship: Authorship;
}

/**
 * Who wrote what of a page that was put together from two: what it shares with the page before it has its writers from
 * there, and what came back with it has those who had written it then.
 */
export function authorshipOf(page: Node, now: AuthoredPage, then: AuthoredPage): Authorship {
  const { size } = page.content;
  const kept = sharedBy(size, compare(now.doc, page));
  const back = carriedOver(then.authorship, sharedBy(size, compare(then.doc, page)));
  const clipped = besides(size, kept).flatMap(({ from, to }) =>
    back.flatMap((run) => {
      const at = { from: Math.max(from, run.from), to: Math.min(to, run.to) };
      return at.from < at.to ? [{ ...run, ...at }] : [];
    }),
  );
  return [...carriedOver(now.authorship, kept), ...clipped].sort((a, b) => a.from - b.from);
}
