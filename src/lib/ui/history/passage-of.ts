import type { Node } from 'prosemirror-model';
import { counted } from '$core/lists/counted';

const EXCERPT = 80;

/** What stands in a passage of a page, in a line: its words, or what was chosen or drawn. */
export function passageOf(page: Node, from: number, to: number): string {
  const text = page.textBetween(from, to, ' ', ' ').trim();
  if (text) return text.length > EXCERPT ? `${text.slice(0, EXCERPT)}…` : text;
  let strokes = 0;
  page.nodesBetween(from, to, (node) => {
    if (node.type.name === 'stroke') strokes += 1;
  });
  if (strokes > 0) return counted(strokes, 'stroke');
  const node = page.nodeAt(from);
  return node?.type.name === 'choice' ? `chosen: ${node.textContent}` : '';
}
