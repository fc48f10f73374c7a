import { closeHistory } from 'prosemirror-history';
import type { Node } from 'prosemirror-model';
import type { Transaction } from 'prosemirror-state';
import type { DecorationSource, EditorView } from 'prosemirror-view';
import { spotsOf } from '$core/page/drawing';
import { schema } from '$core/page/schema';

/** What somebody may do with a drawing: look at it, fill it in, or make it for others. */
export type Mode = 'read' | 'answer' | 'author';

/** How decorations of a drawing's content say what is to be seen of them there. */
export interface DrawnMark {
  /** A class for what stands there. */
  drawn?: string;
  /** What stood there. */
  gone?: readonly Node[];
}

/** Where a drawing stands in an editor. */
export interface Place {
  view: EditorView;
  place: () => number | undefined;
}

/** A drawing as it is shown, and the changes that its reader makes to it. */
export class DrawingShown {
  node: Node = $state.raw(schema.nodes.answer_drawing.create());
  mode: Mode = $state('read');
  /** Classes of its things, by their ids. */
  marks: Readonly<Record<string, string>> = $state.raw({});
  /** What is not there any more, and is shown where it was. */
  gone: readonly Node[] = $state.raw([]);
  private readonly at: Place | null;
  close: () => void = () => undefined;

  constructor(node: Node, mode: Mode, at: Place | null) {
    this.node = node;
    this.mode = mode;
    this.at = at;
  }

  decorate(source: DecorationSource): void {
    const marks: Record<string, string> = {};
    const gone: Node[] = [];
    source.forEachSet((set) => {
      for (const { from, to, spec } of set.find()) {
        const { drawn, gone: was = [] }: DrawnMark = spec;
        gone.push(...was);
        this.node.forEach((child, offset) => {
          if (drawn && from <= offset && offset < to) marks[child.attrs.id] = drawn;
        });
      }
    });
    this.marks = marks;
    this.gone = gone;
  }

  /** Each deed is undone by itself, however fast they come. */
  private dispatch(change: (tr: Transaction) => Transaction): void {
    const view = this.at?.view;
    if (view) view.dispatch(closeHistory(change(view.state.tr)));
  }

  /** One of its things, and where it stands in the page; null when it is gone. */
  private find(id: string): { place: number; child: Node } | null {
    const start = this.at?.place();
    if (start === undefined) return null;
    let found: { place: number; child: Node } | null = null;
    this.node.forEach((child, offset) => {
      if (child.attrs.id === id) found = { place: start + 1 + offset, child };
    });
    return found;
  }

  /** Puts something on it: above all that is there; a spot behind the last one, below all else. */
  add(type: 'stroke' | 'label' | 'spot', attrs: object): void {
    const start = this.at?.place();
    if (start === undefined) return;
    const { size } = this.node.content;
    const offset = type === 'spot' ? spotsOf(this.node).length : size;
    const given = type === 'spot' ? {} : { given: this.mode === 'author' };
    const id = crypto.randomUUID().slice(0, 8);
    const child = schema.nodes[type].create({ ...attrs, ...given, id });
    this.dispatch((tr) => tr.insert(start + 1 + offset, child));
  }

  remove(id: string): void {
    const found = this.find(id);
    if (found) this.dispatch((tr) => tr.delete(found.place, found.place + 1));
  }

  set(id: string, name: 'at' | 'place', value: string): void {
    const found = this.find(id);
    if (found && found.child.attrs[name] !== value)
      this.dispatch((tr) => tr.setNodeAttribute(found.place, name, value));
  }

  /** Writes a label anew, so that whoever did is its writer. */
  write(id: string, text: string): void {
    const found = this.find(id);
    if (!found || found.child.attrs.text === text) return;
    const { place, child } = found;
    const label = child.type.create({ ...child.attrs, text });
    this.dispatch((tr) => tr.replaceWith(place, place + 1, label));
  }

  /** Keys that mean the same on the whole page, such as undo. @returns whether they were used */
  passOn(event: KeyboardEvent): boolean {
    const view = this.at?.view;
    return view?.someProp('handleKeyDown', (handle) => handle(view, event)) === true;
  }

  /** Whether somebody may take something off. */
  mayRemove = (child: Node): boolean => this.mode === 'author' || !child.attrs.given;
}
