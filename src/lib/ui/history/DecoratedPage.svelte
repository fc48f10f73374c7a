<script module lang="ts">
  import type { Range } from '$core/history/compare';

  /** A passage of a page; `answer` where it is a whole one that was pressed on: its id. */
  export type Selected = Range & { answer: string | null };
</script>

<script lang="ts">
  import type { Node } from 'prosemirror-model';
  import { EditorState, Plugin } from 'prosemirror-state';
  import { TableView } from 'prosemirror-tables';
  import { DecorationSet, EditorView, type Decoration } from 'prosemirror-view';
  import { untrack } from 'svelte';
  import { DrawingHolder } from '../drawing/drawing-holder';
  import { selectedAnswer } from '../page/answers';
  import { ChoiceView } from '../page/choice-view';
  import { FormulaView } from '../page/formula-view';
  import '../page/page.css';

  interface Props {
    page: Node;
    label: string;
    decorations?: readonly Decoration[];
    /** What is selected of it, or the answer that was pressed on. */
    selected?: Selected | null;
  }
  /** A page that is only shown, with places of it marked. */
  let { page, label, decorations = [], selected = $bindable(null) }: Props = $props();

  /** In pixels. */
  const LEAST_COLUMN = 56;

  const shown = $derived.by(() => {
    const set = DecorationSet.create(page, [...decorations]);
    return EditorState.create({
      doc: page,
      plugins: [new Plugin({ props: { decorations: () => set } })],
    });
  });

  function selectedIn({ selection }: EditorState): Selected | null {
    const { from, to, empty } = selection;
    const around = selectedAnswer(selection);
    if (!empty && !around) return { from, to, answer: null };
    return around
      ? { from: around.pos, to: around.pos + around.node.nodeSize, answer: around.node.attrs.id }
      : null;
  }

  function mount(place: HTMLElement) {
    const view = new EditorView(place, {
      state: untrack(() => shown),
      editable: () => false,
      attributes: () => ({ role: 'document', 'aria-label': label, tabindex: '0' }),
      dispatchTransaction: (change) => {
        if (change.docChanged) return;
        view.updateState(view.state.apply(change));
        if (change.selectionSet) selected = selectedIn(view.state);
      },
      nodeViews: {
        choice: (node, view, getPos) => new ChoiceView(node, view, getPos, () => true),
        formula: (node) => new FormulaView(node),
        answer_drawing: (node, view, getPos, _outer, inner) =>
          new DrawingHolder(node, view, getPos, inner, () => 'read'),
        table: (node) => {
          const table = new TableView(node, LEAST_COLUMN);
          // What is wider than the page is pushed to and fro by keys, too.
          Object.assign(table.dom, { tabIndex: 0, role: 'region', ariaLabel: 'Table' });
          return table;
        },
      },
    });
    $effect(() => {
      view.updateState(shown);
      untrack(() => (selected = null));
    });
    return () => view.destroy();
  }
</script>

<div class="page-text" {@attach mount}></div>
