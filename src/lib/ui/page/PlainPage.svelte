<script lang="ts">
  import { DOMSerializer, Node } from 'prosemirror-model';
  import { schema } from '$core/page/schema';
  import './page.css';

  interface Props {
    doc: object;
    label: string;
  }
  /** A page that is only shown: no editor, no answers. */
  let { doc, label }: Props = $props();

  /** What draws them is fetched only for pages that have some. @returns what ends it */
  function showDrawings(element: HTMLElement, page: Node): () => void {
    const drawings: Node[] = [];
    page.descendants((node) => {
      if (node.type === schema.nodes.answer_drawing) drawings.push(node);
      return !node.isTextblock;
    });
    const places = element.querySelectorAll<HTMLElement>('[data-answer="drawing"]');
    let close: () => void = () => undefined;
    if (drawings.length > 0)
      void import('../drawing/show-drawing').then(({ showDrawing }) => {
        const shown = drawings.flatMap((node, index) => {
          const place = places[index];
          return place?.isConnected ? showDrawing(place, { node, mode: 'read' }) : [];
        });
        close = () => shown.forEach((one) => one.close());
      });
    return () => close();
  }

  const draw = (doc: object) => (element: HTMLElement) => {
    const page = Node.fromJSON(schema, doc);
    element.replaceChildren(DOMSerializer.fromSchema(schema).serializeFragment(page.content));
    const close = showDrawings(element, page);
    // What is wider than the page is pushed to and fro by itself.
    for (const table of element.querySelectorAll('table')) {
      const frame = document.createElement('div');
      frame.className = 'tableWrapper';
      frame.tabIndex = 0;
      frame.role = 'region';
      frame.ariaLabel = 'Table';
      table.replaceWith(frame);
      frame.append(table);
    }
    return close;
  };
</script>

<div class="page-text" role="document" aria-label={label} {@attach draw(doc)}></div>
