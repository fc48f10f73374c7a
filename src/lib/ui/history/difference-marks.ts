import { DOMSerializer, type Node } from 'prosemirror-model';
import { Decoration } from 'prosemirror-view';
import type { Difference } from '$core/history/compare';
import { schema } from '$core/page/schema';
import type { DrawnMark } from '../drawing/drawing-shown.svelte';

const serializer = DOMSerializer.fromSchema(schema);

/** What is not on the page any more, shown where it stood. */
function gone(was: Node, { was: { from, to }, moved }: Difference): () => HTMLElement {
  return () => {
    const { content, openStart } = was.slice(from, to);
    const name = moved === null ? 'went' : 'went went-moved';
    const only = content.firstChild;
    if (openStart === 0 && only && !only.isInline) {
      // A row of a table stands among rows, so it is marked itself.
      const element = serializer.serializeNode(only);
      if (element instanceof HTMLElement && only.type.spec.tableRole) {
        element.className = name;
        return element;
      }
    }
    const element = document.createElement('del');
    element.className = only?.isInline === false ? `${name} went-block` : name;
    element.append(serializer.serializeFragment(content));
    return element;
  };
}

/** How the differences of two pages are shown on the second. */
export function differenceMarks(
  was: Node,
  is: Node,
  differences: readonly Difference[],
): Decoration[] {
  return differences.flatMap((difference, index) => {
    const marks: Decoration[] = [];
    const { kind, moved } = difference;
    if ((kind === 'removed' || kind === 'replaced') && difference.was.to > difference.was.from)
      marks.push(
        Decoration.widget(difference.is.from, gone(was, difference), {
          side: -1,
          key: `${index} ${difference.was.from} ${difference.was.to}`,
          gone: was.slice(difference.was.from, difference.was.to).content.content,
        } satisfies DrawnMark & { side: number; key: string }),
      );
    const { from, to } = difference.is;
    if (to > from && kind !== 'removed') {
      const changed = kind === 'formatted' || kind === 'set';
      const name = changed ? 'changed-form' : moved === null ? 'came' : 'came came-moved';
      marks.push(...markOver(is, from, to, name, changed ? 'span' : 'ins'));
    }
    return marks;
  });
}

/** Words are marked as words, blocks as blocks. */
function markOver(
  page: Node,
  from: number,
  to: number,
  name: string,
  element: string,
): Decoration[] {
  const drawn: DrawnMark = { drawn: name };
  const node = page.nodeAt(from);
  if (node && !node.isInline && from + node.nodeSize === to)
    return [Decoration.node(from, to, { class: `${name} ${name.split(' ')[0]}-block` }, drawn)];
  return [Decoration.inline(from, to, { nodeName: element, class: name }, drawn)];
}
