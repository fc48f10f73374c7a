import type { Node } from 'prosemirror-model';
import { counted } from '../lists/counted';
import { partsOf } from '../page/parts';

const shorten = (text: string, most: number) =>
  text.length > most ? `${text.slice(0, most)}…` : text;

/**
 * What stands in a passage of a page, in a line: which drawing or picture it is, its words, or what was chosen or drawn.
 * @param most characters
 */
export function passageOf(page: Node, from: number, to: number, most = 80): string {
  const first = page.nodeAt(from);
  const only = first && from + first.nodeSize === to ? first : null;
  if (only?.type.name === 'picture') return shorten(`picture: ${only.attrs.alt}`, most);
  if (only?.type.name === 'answer_drawing') {
    const label = partsOf(page).find(({ id }) => id === only.attrs.id)?.label ?? '';
    return shorten(`drawing: ${label}`, most);
  }
  const text = page.textBetween(from, to, ' ', ' ').trim();
  if (text) return shorten(text, most);
  let strokes = 0;
  page.nodesBetween(from, to, (node) => {
    if (node.type.name === 'stroke') strokes += 1;
  });
  if (strokes > 0) return counted(strokes, 'stroke');
  return first?.type.name === 'choice' ? `chosen: ${first.textContent}` : '';
}
