import type { Node } from 'prosemirror-model';
import type { Anchor } from '../history/anchor';

/**
 * What a stamp is put on at a position of a page: the word there; where there is none, the block. Of the answers that are no text, such
 * as a drawing, all of it.
 */
export function stampPlace(page: Node, pos: number): Anchor {
  const at = page.resolve(Math.max(0, Math.min(pos, page.content.size)));
  const after = at.nodeAfter;
  if (after?.isBlock && after.isAtom) return { from: at.pos, to: at.pos + after.nodeSize };
  if (at.parent.isTextblock && at.parent.content.size > 0) {
    const text = at.parent.textBetween(0, at.parent.content.size, ' ', ' ');
    const [offset, start] = [at.parentOffset, at.start()];
    const from = text.slice(0, offset).search(/\S+$/);
    const length = text.slice(offset).search(/\s|$/);
    const word = { from: start + (from < 0 ? offset : from), to: start + offset + length };
    return word.from < word.to ? word : { from: start, to: at.end() };
  }
  if (at.depth > 0) return { from: at.before(), to: at.after() };
  const node = after ?? at.nodeBefore;
  const from = after ? at.pos : at.pos - (node?.nodeSize ?? 0);
  return { from, to: from + (node?.nodeSize ?? 0) };
}
