import type { StepMap } from 'prosemirror-transform';
import { moveAnchor, type Anchor } from './anchor';

/** What is new in a page to somebody who looked at it before, or since it was handed back. */
export interface NewSince {
  since: 'you looked' | 'it went back';
  /** The version that it had then. */
  version: number;
  /** When that was, in epoch milliseconds. */
  at: number;
  /** Where others changed it since, as positions of the page now. */
  places: Anchor[];
}

interface Change {
  map: StepMap;
  /** Whether what it brought counts; otherwise it only moves what others brought. */
  counts: boolean;
}

/**
 * Where a page was changed by some steps, as positions in the page after the last of them, in order and without overlap.
 * Where something was taken out and nothing put in, `from` and `to` are equal.
 */
export function changedRanges(changes: readonly Change[]): Anchor[] {
  let ranges: Anchor[] = [];
  for (const { map, counts } of changes) {
    ranges = ranges.map((range) => moveAnchor(range, map));
    if (counts)
      map.forEach((_from, _to, from, to) => {
        ranges.push({ from, to });
      });
    ranges = joined(ranges);
  }
  return ranges;
}

/** Ranges in order, those that touch as one. */
export function joined(ranges: readonly Anchor[]): Anchor[] {
  const sorted = [...ranges].sort((a, b) => a.from - b.from || a.to - b.to);
  const one: Anchor[] = [];
  for (const { from, to } of sorted) {
    const last = one.at(-1);
    if (last && from <= last.to) last.to = Math.max(last.to, to);
    else one.push({ from, to });
  }
  return one;
}
