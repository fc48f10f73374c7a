import type { Node } from 'prosemirror-model';
import type { NodeView } from 'prosemirror-view';
import { drawFormula } from './draw-formula';

/** A formula of a page. */
export class FormulaView implements NodeView {
  readonly dom = document.createElement('span');

  constructor(private node: Node) {
    this.dom.className = 'formula';
    this.draw();
  }

  private draw() {
    void drawFormula(this.dom, this.node.attrs.tex);
  }

  update(node: Node): boolean {
    if (node.type !== this.node.type) return false;
    const changed = node.attrs.tex !== this.node.attrs.tex;
    this.node = node;
    if (changed) this.draw();
    return true;
  }

  ignoreMutation(): boolean {
    return true;
  }
}
