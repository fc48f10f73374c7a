<script lang="ts">
  import { Node } from 'prosemirror-model';
  import { Decoration } from 'prosemirror-view';
  import type { Anchor } from '$core/history/anchor';
  import { schema } from '$core/page/schema';
  import DecoratedPage from '$ui/history/DecoratedPage.svelte';

  interface Props {
    doc: object;
    /** What it shares, in the same order in both copies. */
    places: readonly Anchor[];
    label: string;
  }
  /** One of two copies, with what both have marked and counted. */
  let { doc, places, label }: Props = $props();

  const page = $derived(Node.fromJSON(schema, doc));
  const decorations = $derived(
    places.flatMap(({ from, to }, index) => [
      Decoration.widget(from, () => sign(index + 1), { side: -1, key: `shared ${index}` }),
      Decoration.inline(from, to, { class: 'shared-words' }),
    ]),
  );
  function sign(number: number): HTMLElement {
    const mark = document.createElement('span');
    mark.className = 'shared-number';
    mark.textContent = String(number);
    return mark;
  }
  const start = (frame: HTMLElement) => {
    requestAnimationFrame(() => {
      const first = frame.querySelector('.shared-words');
      if (first)
        frame.scrollTop =
          first.getBoundingClientRect().top - frame.getBoundingClientRect().top - 40;
    });
  };
</script>

<!-- svelte-ignore a11y_no_noninteractive_tabindex (what overflows must be scrolled by keyboard) -->
<div
  class="min-h-0 flex-1 overflow-auto max-md:max-h-96 border border-rule bg-(--page) px-6 py-3"
  tabindex="0"
  role="region"
  aria-label="{label}, to be read"
  {@attach start}
>
  <DecoratedPage {page} {label} {decorations} />
</div>
