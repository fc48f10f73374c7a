import type { Node } from 'prosemirror-model';
import { Plugin } from 'prosemirror-state';
import { Decoration, DecorationSet } from 'prosemirror-view';
import type { Anchor } from '$core/history/anchor';

/**
 * How what is new in a page is shown on it: words as words, what has none framed, and a sign where something went.
 * `data-new` counts the places.
 */
export function newMarks(page: Node, places: readonly Anchor[]): Decoration[] {
  const end = page.content.size;
  return places.flatMap(({ from, to }, index) => {
    const which = { 'data-new': String(index) };
    if (to > end) return [];
    if (from === to) return [Decoration.widget(from, () => gone(index), { key: `gone ${index}` })];
    const marks = [Decoration.inline(from, to, { class: 'new-words', ...which })];
    page.nodesBetween(from, to, (node, pos) => {
      if (!node.isBlock || !node.type.isAtom) return true;
      marks.push(
        Decoration.node(pos, pos + node.nodeSize, { class: 'new-words new-frame', ...which }),
      );
      return false;
    });
    return marks;
  });
}

function gone(index: number): HTMLElement {
  const sign = document.createElement('span');
  sign.className = 'new-gone';
  sign.dataset.new = String(index);
  sign.title = 'something was removed here';
  return sign;
}

/** Where somebody writes. */
export function writingMark(page: Node, place: number): Decoration[] {
  if (place > page.content.size) return [];
  const caret = () => {
    const sign = document.createElement('span');
    sign.className = 'writing-here';
    return sign;
  };
  return [Decoration.widget(place, caret, { key: `writing ${place}`, side: 1 })];
}

/** Shows what is new in a page that is open, and keeps it shown while the page moves. */
export const newHighlights = (places: readonly Anchor[]): Plugin<DecorationSet> =>
  new Plugin<DecorationSet>({
    state: {
      init: (_config, { doc }) => DecorationSet.create(doc, newMarks(doc, places)),
      apply: ({ mapping, doc }, marks) => marks.map(mapping, doc),
    },
    props: {
      decorations(state) {
        return this.getState(state);
      },
    },
  });
