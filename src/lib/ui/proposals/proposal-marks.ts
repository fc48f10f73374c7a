import { DOMSerializer, type Node, type Slice } from 'prosemirror-model';
import { Plugin, type EditorState } from 'prosemirror-state';
import { AddMarkStep, RemoveMarkStep, ReplaceAroundStep, ReplaceStep } from 'prosemirror-transform';
import { Decoration, DecorationSet } from 'prosemirror-view';
import { schema } from '$core/page/schema';
import type { Standing } from './place-offers';

const serializer = DOMSerializer.fromSchema(schema);

/** What would come in, as it would stand there; where a line ends, a sign says so. */
function incoming({ content }: Slice, id: string, chosen: boolean): () => HTMLElement {
  return () => {
    const shown = document.createElement('ins');
    shown.className = `proposed-in${chosen ? ' proposed-chosen' : ''}`;
    shown.dataset.proposal = id;
    let lines = 0;
    const add = (node: Node) => {
      if (node.isInline) shown.append(serializer.serializeNode(node));
      else if (node.isTextblock) {
        if (lines++ > 0) shown.append(' ¶ ');
        shown.append(serializer.serializeFragment(node.content));
      } else if (node.isLeaf) shown.append(serializer.serializeNode(node));
      else node.forEach(add);
    };
    content.forEach(add);
    if (shown.textContent === '' && !shown.firstElementChild) shown.append('¶');
    return shown;
  };
}

function drawOne(page: Node, { id, offer }: Standing, chosen: boolean): Decoration[] {
  const look = (kind: string) => ({
    class: `${kind}${chosen ? ' proposed-chosen' : ''}`,
    'data-proposal': id,
  });
  const drawn: Decoration[] = offer.takesOut.flatMap(({ from, to }) => {
    const out = [Decoration.inline(from, to, { nodeName: 'del', ...look('proposed-out') }, { id })];
    page.nodesBetween(from, to, (node, pos) => {
      if (!node.isBlock || !node.isLeaf) return true;
      out.push(Decoration.node(pos, pos + node.nodeSize, look('proposed-frame'), { id }));
      return false;
    });
    return out;
  });
  const [only, ...more] = offer.steps;
  if (only instanceof ReplaceStep && more.length === 0) {
    if (only.slice.size > 0)
      drawn.push(
        Decoration.widget(only.to, incoming(only.slice, id, chosen), {
          // Behind the words it replaces; a caret at its place stays before it.
          side: 1,
          key: `${id} ${chosen}`,
          id,
        }),
      );
    return drawn;
  }
  for (const step of offer.steps) {
    if (step instanceof AddMarkStep || step instanceof RemoveMarkStep)
      drawn.push(Decoration.inline(step.from, step.to, look('proposed-form'), { id }));
    if (step instanceof ReplaceAroundStep)
      page.nodesBetween(step.from, Math.min(step.to, page.content.size), (node, pos) => {
        if (!node.isTextblock) return true;
        drawn.push(Decoration.node(pos, pos + node.nodeSize, look('proposed-block'), { id }));
        return false;
      });
  }
  return drawn;
}

/** What of its words an offer shows in the page. */
const drawOffers = (page: Node, offers: readonly Standing[], chosen: string | null): Decoration[] =>
  offers.flatMap((one) => drawOne(page, one, one.id === chosen));

/**
 * Shows proposals where they stand. A plugin that an editor can be given later: it keeps nothing.
 * @param standing in a state of the editor
 */
export const proposalMarks = (
  standing: (state: EditorState) => readonly Standing[],
  chosen: () => string | null,
  choose: (id: string) => void,
): Plugin =>
  new Plugin({
    props: {
      decorations: (state) =>
        DecorationSet.create(state.doc, drawOffers(state.doc, standing(state), chosen())),
      handleDOMEvents: {
        click(_view, event) {
          const at = event.target instanceof Element ? event.target : null;
          const id = at?.closest<HTMLElement>('[data-proposal]')?.dataset.proposal;
          if (id) choose(id);
          return false;
        },
      },
    },
  });
