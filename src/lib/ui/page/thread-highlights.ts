import type { Node } from 'prosemirror-model';
import { Plugin, PluginKey, type Transaction } from 'prosemirror-state';
import { Decoration, DecorationSet } from 'prosemirror-view';
import { moveAnchor, type Anchor } from '$core/history/anchor';

export interface ThreadPlace extends Anchor {
  id: string;
  /** What is drawn there instead of marking its words: a stamp. */
  stamp?: { sign: () => Element; says: string };
}

interface Marks {
  places: readonly ThreadPlace[];
  chosen: string | null;
  set: DecorationSet;
}

const key = new PluginKey<Marks>('threads');

/** Where the block begins that something stands in, or that it is. */
function lineOf(page: Node, { from }: Anchor): number {
  const at = page.resolve(from);
  return at.depth === 0 ? from : at.start();
}

/** A stamp stands beside its place, the second of a line below the first: each can be pressed. */
function drawStamp(
  { id, from, stamp }: ThreadPlace,
  chosen: string | null,
  nth: number,
): Decoration {
  const sign = () => {
    const place = document.createElement('span');
    place.className = id === chosen ? 'stamp stamp-chosen' : 'stamp';
    place.dataset['thread'] = id;
    place.style.setProperty('--nth', `${nth}`);
    place.setAttribute('role', 'img');
    place.setAttribute('aria-label', stamp?.says ?? '');
    place.title = stamp?.says ?? '';
    if (stamp) place.append(stamp.sign());
    return place;
  };
  return Decoration.widget(from, sign, {
    id,
    key: `${id} ${id === chosen} ${nth}`,
    side: -1,
    ignoreSelection: true,
  });
}

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
    places
      .filter(({ from, to }) => from < to)
      .flatMap((place, index, all) => {
        if (!place.stamp) return draw(page, place, chosen);
        const before = all
          .slice(0, index)
          .filter((one) => one.stamp && lineOf(page, one) === lineOf(page, place));
        return [drawStamp(place, chosen, before.length)];
      }),
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
      handleClick(view, pos, { target }) {
        const stamp = target instanceof Element ? target.closest<HTMLElement>('.stamp') : null;
        if (stamp?.dataset['thread']) {
          choose(stamp.dataset['thread']);
          return true;
        }
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
