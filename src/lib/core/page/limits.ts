import type { Node } from 'prosemirror-model';
import { inkOn } from './drawing';

/** Of a whole page, in ProseMirror's units: one for a character, two for a block. */
export const MOST_SIZE = 400_000;
/** Of paragraphs, headings, list items, table cells, answers and pictures on a page, each with what it lies in. */
export const MOST_BLOCKS = 6_000;
/** Of what lies inside each other: lists in lists, tables in tables. */
export const MOST_DEPTH = 60;
/** Of all strokes of a page, in characters of their points: some thousand strokes. */
export const MOST_INK = 1_500_000;

/** Whether something on a page lies inside more than `most` others. Goes no deeper than that. */
function isDeeperThan(page: Node, most: number): boolean {
  if (most < 0) return true;
  for (let i = 0; i < page.childCount; i++)
    if (!page.child(i).isText && isDeeperThan(page.child(i), most - 1)) return true;
  return false;
}

function countBlocks(page: Node): number {
  let count = 0;
  page.descendants((node) => {
    if (!node.isInline) count++;
    return !node.inlineContent;
  });
  return count;
}

export type TooLarge = 'too deep' | 'too long' | 'too many blocks' | 'too much ink';

/**
 * What is too much on a page; null when nothing is. One that was too large already may become smaller.
 * @param was the page before a change, if there was one
 */
export function tooLarge(page: Node, was: Node | null = null): TooLarge | null {
  if (isDeeperThan(page, MOST_DEPTH)) return 'too deep';
  if (page.nodeSize > MOST_SIZE && page.nodeSize > (was?.nodeSize ?? 0)) return 'too long';
  const ink = inkOn(page);
  if (ink > MOST_INK && ink > (was ? inkOn(was) : 0)) return 'too much ink';
  // A block takes one at least, so short pages need not be counted.
  if (page.nodeSize <= MOST_BLOCKS) return null;
  const blocks = countBlocks(page);
  return blocks > MOST_BLOCKS && blocks > (was ? countBlocks(was) : 0) ? 'too many blocks' : null;
}
