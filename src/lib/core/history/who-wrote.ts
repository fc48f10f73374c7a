import type { Node } from 'prosemirror-model';
import { grouped } from '../lists/grouped';
import type { Authorship } from './authorship';
import type { LineSitting } from './work-line';

/** What one person wrote, and drew, of a page. In characters. */
export interface Written {
  author: string;
  /** All that they ever wrote. */
  written: number;
  sittings: number;
  /** What of it stands on the page. */
  stands: number;
  /** Of what they drew, the strokes that stand on the page. */
  strokes: number;
  /**
   * Of the characters that stand and count, from 0 to 1; of the strokes where no words stand. Null for those whose words do
   * not count.
   */
  share: number | null;
}

function strokesIn(page: Node, from: number, to: number): number {
  let count = 0;
  page.nodesBetween(from, to, ({ type }) => {
    if (type.name === 'stroke') count += 1;
  });
  return count;
}

const lengthOf = (text: string) => [...text].length;

/**
 * Who wrote how much of a page, whoever has most on it first. What the page began with is nobody's.
 * @param page at one moment, with its authorship then
 * @param line all of its sittings
 * @param counts whose words have a share: a teacher's in a student's page have none
 */
export function whoWrote(
  page: Node,
  authorship: Authorship,
  line: readonly LineSitting[],
  counts: (author: string) => boolean,
): Written[] {
  const stands = new Map<string, number>();
  const strokes = new Map<string, number>();
  for (const { author, from, to } of authorship) {
    stands.set(author, (stands.get(author) ?? 0) + lengthOf(page.textBetween(from, to)));
    strokes.set(author, (strokes.get(author) ?? 0) + strokesIn(page, from, to));
  }
  const sittings = grouped(line, ({ author }) => author);
  const authors = [...new Set([...sittings.keys(), ...stands.keys()])];
  const standing = (author: string) => stands.get(author) ?? 0;
  const drawn = (author: string) => strokes.get(author) ?? 0;
  const sumOf = (of: (author: string) => number) =>
    authors.filter(counts).reduce((sum, author) => sum + of(author), 0);
  const words = sumOf(standing);
  const [part, all] = words > 0 ? [standing, words] : [drawn, sumOf(drawn)];
  return authors
    .map((author) => {
      const theirs = sittings.get(author) ?? [];
      return {
        author,
        written: theirs.reduce((sum, { added }) => sum + added, 0),
        sittings: theirs.length,
        stands: standing(author),
        strokes: drawn(author),
        share: counts(author) ? part(author) / (all || 1) : null,
      };
    })
    .sort(
      (one, other) =>
        other.stands - one.stands || other.strokes - one.strokes || other.written - one.written,
    );
}
