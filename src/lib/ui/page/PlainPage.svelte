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
  };
</script>

<div class="page-text font-page" role="document" aria-label={label} {@attach draw(doc)}></div>
