import type { Node } from 'prosemirror-model';
import type { NodeView } from 'prosemirror-view';

/** A formula, typeset by KaTeX, which is fetched only for pages that have one. */
export class FormulaView implements NodeView {
  readonly dom = document.createElement('span');

  constructor(private node: Node) {
    this.dom.className = 'formula';
    void this.draw();
  }

  private async draw() {
    const { tex } = this.node.attrs;
    this.dom.textContent = tex;
    const [katex] = await Promise.all([import('katex'), import('katex/dist/katex.min.css')]);
    if (this.node.attrs.tex === tex)
      katex.default.render(tex, this.dom, {
        throwOnError: false,
        output: 'htmlAndMathml',
        trust: false,
      });
  }

  update(node: Node): boolean {
    if (node.type !== this.node.type) return false;
    const changed = node.attrs.tex !== this.node.attrs.tex;
    this.node = node;
    if (changed) void this.draw();
    return true;
  }

  ignoreMutation(): boolean {
    return true;
  }
}
