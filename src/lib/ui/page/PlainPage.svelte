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

  const draw = (doc: object) => (element: HTMLElement) => {
    const page = Node.fromJSON(schema, doc);
    element.replaceChildren(DOMSerializer.fromSchema(schema).serializeFragment(page.content));
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
  };
</script>

<div class="page-text font-page" role="document" aria-label={label} {@attach draw(doc)}></div>
