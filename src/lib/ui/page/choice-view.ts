import type { Node } from 'prosemirror-model';
import type { EditorView, NodeView } from 'prosemirror-view';

/** An option of a choice: a real radio button or check box beside the option's own text. */
export class ChoiceView implements NodeView {
  readonly dom = document.createElement('div');
  readonly contentDOM = document.createElement('span');
  private readonly input = document.createElement('input');

  constructor(
    private node: Node,
    private readonly view: EditorView,
    private readonly getPos: () => number | undefined,
    private readonly isReading: () => boolean,
  ) {
    this.dom.className = 'choice';
    this.contentDOM.className = 'choice-text';
    const holder = document.createElement('span');
    holder.contentEditable = 'false';
    holder.append(this.input);
    this.dom.append(holder, this.contentDOM);
    this.input.addEventListener('change', () => this.choose());
    this.contentDOM.addEventListener('click', () => {
      this.input.click();
    });
    this.draw();
  }

  private draw() {
    const pos = this.getPos();
    const parent = pos === undefined ? null : this.view.state.doc.resolve(pos).parent;
    this.input.type = parent?.attrs.several ? 'checkbox' : 'radio';
    this.input.name = `choice-${parent?.attrs.id ?? ''}`;
    this.input.checked = this.node.attrs.chosen;
    this.input.disabled = this.isReading();
    this.input.setAttribute('aria-label', this.node.textContent || 'option');
  }

  private choose() {
    const pos = this.getPos();
    if (pos === undefined) return;
    const { state } = this.view;
    const $pos = state.doc.resolve(pos);
    const transaction = state.tr.setNodeAttribute(pos, 'chosen', this.input.checked);
    if (!$pos.parent.attrs.several)
      $pos.parent.forEach((option, offset) => {
        const other = $pos.start() + offset;
        if (other !== pos && option.attrs.chosen)
          transaction.setNodeAttribute(other, 'chosen', false);
      });
    this.view.dispatch(transaction);
    this.draw();
  }

  update(node: Node): boolean {
    if (node.type !== this.node.type) return false;
    this.node = node;
    this.draw();
    return true;
  }

  stopEvent(event: Event): boolean {
    return event.target === this.input;
  }

  ignoreMutation(mutation: { target: globalThis.Node }): boolean {
    return !this.contentDOM.contains(mutation.target);
  }
}
