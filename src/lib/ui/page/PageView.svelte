<script lang="ts">
  import { TableView } from 'prosemirror-tables';
  import { EditorView } from 'prosemirror-view';
  import { untrack } from 'svelte';
  import { DrawingHolder } from '../drawing/drawing-holder';
  import { ChoiceView } from './choice-view';
  import { FormulaView } from './formula-view';
  import type { Editing } from './editing';
  import './page.css';

  /** In pixels. */
  const LEAST_COLUMN = 56;

  interface Props {
    session: Editing;
    /** What a screen reader calls the page. */
    label: string;
    /** Whether this person may change it. */
    editable: boolean;
    /** Whether its choices can be chosen; in an original they are only written. */
    answering?: boolean;
    /** Hands out the view, for a toolbar. */
    view?: EditorView | null;
  }
  let { session, label, editable, answering = editable, view = $bindable(null) }: Props = $props();

  function mount(place: HTMLElement) {
    session.reading = untrack(() => !editable);
    const drawings: DrawingHolder[] = [];
    const editor = untrack(
      () =>
        new EditorView(place, {
          state: session.state,
          attributes: () => ({
            'aria-label': label,
            role: 'textbox',
            'aria-multiline': 'true',
            'aria-readonly': String(!editable),
            tabindex: '0',
            // Someone who only reads needs a caret to select words by keyboard, but no keys on the screen.
            inputmode: editable ? 'text' : 'none',
          }),
          dispatchTransaction: session.dispatch,
          nodeViews: {
            choice: (node, view, getPos) => new ChoiceView(node, view, getPos, () => !answering),
            formula: (node) => new FormulaView(node),
            answer_drawing: (node, view, getPos, _outer, inner) => {
              const drawing = new DrawingHolder(node, view, getPos, inner, () =>
                answering ? 'answer' : editable ? 'author' : 'read',
              );
              drawings.push(drawing);
              return drawing;
            },
            // What is wider than the page is pushed to and fro by itself.
            table: (node) => new TableView(node, LEAST_COLUMN),
          },
        }),
    );
    session.show = (state) => editor.updateState(state);
    view = editor;
    $effect(() => {
      void label;
      session.reading = !editable;
      editor.setProps({});
      editor.dom.querySelectorAll<HTMLInputElement>('.choice input').forEach((input) => {
        input.disabled = !answering;
      });
      for (const drawing of drawings) drawing.refresh();
    });
    return () => {
      session.show = () => undefined;
      view = null;
      editor.destroy();
    };
  }
</script>

<div class="page-text" {@attach mount}></div>
