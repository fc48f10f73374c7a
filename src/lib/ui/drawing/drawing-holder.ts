import type { Node } from 'prosemirror-model';
import { NodeSelection } from 'prosemirror-state';
import type { DecorationSource, EditorView, NodeView } from 'prosemirror-view';

import type { DrawingShown, Mode } from './drawing-shown.svelte';

/** A drawing in a page. What draws it is fetched only for pages that have one. */
export class DrawingHolder implements NodeView {
  readonly dom = document.createElement('div');
  private shown: DrawingShown | null = null;
  private isGone = false;

  /** @param modeOf what its reader may do with it now */
  constructor(
    private node: Node,
    private readonly view: EditorView,
    private readonly getPos: () => number | undefined,
    private inner: DecorationSource,
    private readonly modeOf: () => Mode,
  ) {
    this.dom.className = 'answer answer-drawing';
    this.dom.contentEditable = 'false';
    this.dom.addEventListener('pointerdown', this.select);
    this.dom.addEventListener('focusin', this.select);
    // So that the page does not jump when it comes.
    this.dom.style.setProperty('aspect-ratio', `1000 / ${node.attrs.height}`);
    void import('./show-drawing').then(({ showDrawing }) => {
      if (this.isGone) return;
      this.dom.style.removeProperty('aspect-ratio');
      this.shown = showDrawing(this.dom, {
        node: this.node,
        mode: this.modeOf(),
        view: this.view,
        place: this.getPos,
      });
      this.shown.decorate(this.inner);
    });
  }

  update(node: Node, _outer: unknown, inner: DecorationSource): boolean {
    if (node.type !== this.node.type) return false;
    this.node = node;
    this.inner = inner;
    if (this.shown) {
      this.shown.node = node;
      this.shown.decorate(inner);
    }
    return true;
  }

  /** What its reader may do has changed. */
  refresh(): void {
    if (this.shown) this.shown.mode = this.modeOf();
  }

  /** Who writes the page finds the settings of a drawing they touch. */
  private readonly select = (): void => {
    if (this.modeOf() !== 'author') return;
    const pos = this.getPos();
    const { state } = this.view;
    if (pos === undefined || state.selection.from === pos) return;
    this.view.dispatch(state.tr.setSelection(NodeSelection.create(state.doc, pos)));
  };

  /** Where it is only read, a press selects it as a whole. */
  stopEvent(): boolean {
    return this.modeOf() !== 'read';
  }

  ignoreMutation(): boolean {
    return true;
  }

  destroy(): void {
    this.isGone = true;
    this.shown?.close();
  }
}
