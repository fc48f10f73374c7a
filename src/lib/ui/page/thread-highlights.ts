import type { Node } from 'prosemirror-model';
import { Plugin, PluginKey, type Transaction } from 'prosemirror-state';
import { Decoration, DecorationSet } from 'prosemirror-view';
import { moveAnchor, type Anchor } from '$core/history/anchor';

export interface ThreadPlace extends Anchor {
  id: string;
}

interface Marks {
  places: readonly ThreadPlace[];
  chosen: string | null;
  set: DecorationSet;
}

const key = new PluginKey<Marks>('threads');

/** Words are marked as such; drawings and pictures among them, which have none, are framed. */
function draw(page: Node, { id, from, to }: ThreadPlace, chosen: string | null): Decoration[] {
  const shown = id === chosen ? 'thread-words thread-chosen' : 'thread-words';
  const marks = [Decoration.inline(from, to, { class: shown, 'data-thread': id }, { id })];
  page.nodesBetween(from, to, (node, pos) => {
    if (!node.isBlock || !node.type.isAtom) return true;
    const frame = { class: `${shown} thread-frame`, 'data-thread': id };
    marks.push(Decoration.node(pos, pos + node.nodeSize, frame, { id }));
    return false;
  });
  return marks;
}

const drawn = (page: Node, places: readonly ThreadPlace[], chosen: string | null): Marks => ({
  places,
  chosen,
  set: DecorationSet.create(
    page,
    places.filter(({ from, to }) => from < to).flatMap((place) => draw(page, place, chosen)),
  ),
});

/** Marks what threads are tied to, and keeps the marks on it while the page moves. */
export const threadHighlights = (choose: (thread: string) => void): Plugin =>
  new Plugin<Marks>({
    key,
    state: {
      init: () => ({ places: [], chosen: null, set: DecorationSet.empty }),
      apply(transaction, marks) {
        const { doc, docChanged, mapping } = transaction;
        const told: Partial<Pick<Marks, 'places' | 'chosen'>> = transaction.getMeta(key) ?? {};
        if (!docChanged && !transaction.getMeta(key)) return marks;
        const moved = marks.places.map((place) => ({ ...place, ...moveAnchor(place, mapping) }));
        const { places, chosen } = { ...marks, places: moved, ...told };
        return drawn(doc, places, chosen);
      },
    },
    props: {
      decorations: (state) => key.getState(state)?.set,
      handleClick(view, pos) {
        const [mark] = key.getState(view.state)?.set.find(pos, pos) ?? [];
        if (mark) choose(mark.spec.id);
        return false;
      },
    },
  });

export const setThreads = (transaction: Transaction, places: readonly ThreadPlace[]): Transaction =>
  transaction.setMeta(key, { places }).setMeta('addToHistory', false);

export const chooseThread = (transaction: Transaction, chosen: string | null): Transaction =>
  transaction.setMeta(key, { chosen }).setMeta('addToHistory', false);
