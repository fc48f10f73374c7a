<script lang="ts">
  import { Node } from 'prosemirror-model';
  import { EditorState, Plugin } from 'prosemirror-state';
  import { TableView } from 'prosemirror-tables';
  import { Decoration, DecorationSet, EditorView } from 'prosemirror-view';
  import { schema } from '$core/page/schema';
  import { FormulaView } from '../page/formula-view';
  import '../page/page.css';

  interface Props {
    doc: object;
    label: string;
    /** Passages that are marked, each with what is said of it: page positions. */
    passages: readonly { from: number; to: number; says: string }[];
  }
  /** A page that is only shown, with passages of it marked. */
  let { doc, label, passages }: Props = $props();

  /** In pixels. */
  const LEAST_COLUMN = 56;

  const shown = $derived.by(() => {
    const page = Node.fromJSON(schema, doc);
    const marks = passages.map(({ from, to, says }) =>
      Decoration.inline(from, to, { class: 'written', title: says }),
    );
    const set = DecorationSet.create(page, marks);
    return EditorState.create({
      doc: page,
      plugins: [new Plugin({ props: { decorations: () => set } })],
    });
  });

  function mount(place: HTMLElement) {
    const view = new EditorView(place, {
      state: shown,
      editable: () => false,
      attributes: { role: 'document', 'aria-label': label, tabindex: '0' },
      nodeViews: {
        formula: (node) => new FormulaView(node),
        table: (node) => new TableView(node, LEAST_COLUMN),
      },
    });
    $effect(() => view.updateState(shown));
    return () => view.destroy();
  }
</script>

<div class="page-text" {@attach mount}></div>
