import { Plugin, PluginKey, type EditorState, type Transaction } from 'prosemirror-state';
import { Decoration, DecorationSet } from 'prosemirror-view';
import type { Anchor } from '$core/history/anchor';

export interface ThreadPlace extends Anchor {
  id: string;
}

interface Marks {
  set: DecorationSet;
  chosen: string | null;
}

const key = new PluginKey<Marks>('threads');

const draw = (id: string, { from, to }: Anchor, chosen: string | null) =>
  Decoration.inline(
    from,
    to,
    { class: id === chosen ? 'thread-words thread-chosen' : 'thread-words', 'data-thread': id },
    { id, inclusiveStart: false, inclusiveEnd: false },
  );

function redrawn(
  set: DecorationSet,
  doc: EditorState['doc'],
  chosen: string | null,
): DecorationSet {
  const all = set.find().map(({ from, to, spec }) => draw(spec.id, { from, to }, chosen));
  return DecorationSet.create(doc, all);
}

/** Marks the words that threads are tied to, and keeps the marks on them while the text moves. */
export const threadHighlights = (choose: (thread: string) => void): Plugin =>
  new Plugin<Marks>({
    key,
    state: {
      init: () => ({ set: DecorationSet.empty, chosen: null }),
      apply(transaction, { set, chosen }) {
        const meta = transaction.getMeta(key);
        if (meta?.places) {
          const places: readonly ThreadPlace[] = meta.places;
          const marks = places
            .filter(({ from, to }) => from < to)
            .map((place) => draw(place.id, place, chosen));
          return { set: DecorationSet.create(transaction.doc, marks), chosen };
        }
        const moved = transaction.docChanged ? set.map(transaction.mapping, transaction.doc) : set;
        if (meta && 'chosen' in meta)
          return { set: redrawn(moved, transaction.doc, meta.chosen), chosen: meta.chosen };
        return { set: moved, chosen };
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
