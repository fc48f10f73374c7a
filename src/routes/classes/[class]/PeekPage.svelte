<script lang="ts">
  import { Node } from 'prosemirror-model';
  import { schema } from '$core/page/schema';
  import { newMarks, writingMark } from '$ui/history/new-marks';
  import DecoratedPage from '$ui/history/DecoratedPage.svelte';
  import type { PeekInside } from '$server/copy/look-inside';

  interface Props {
    inside: PeekInside;
    label: string;
    /** Whether somebody is writing in it. */
    writing: boolean;
  }
  /** The copy as it is, small: where somebody writes, and what is new since one looked, is marked and in sight. */
  let { inside, label, writing }: Props = $props();

  const page = $derived(Node.fromJSON(schema, inside.doc));
  const decorations = $derived([
    ...newMarks(page, inside.newSince?.places ?? []),
    ...(writing && inside.lastPlace !== null ? writingMark(page, inside.lastPlace) : []),
  ]);

  /** What somebody writes is followed; otherwise what is new is looked at first, and then nothing is moved any more. */
  let shownFirst = false;
  function follow(frame: HTMLElement) {
    $effect(() => {
      void decorations;
      const wasShown = shownFirst;
      shownFirst = true;
      const place = frame.querySelector(
        writing ? '.writing-here' : wasShown ? '.none' : '[data-new]',
      );
      if (!place) return;
      const { top, bottom } = place.getBoundingClientRect();
      const { top: least, bottom: most } = frame.getBoundingClientRect();
      if (top < least || bottom > most) frame.scrollTop += top - least - frame.clientHeight / 2;
    });
  }
</script>

<!-- svelte-ignore a11y_no_noninteractive_tabindex (what overflows must be scrolled by keyboard) -->
<div
  class="mt-4 max-h-80 overflow-auto border border-rule bg-(--page) px-4 py-2 [zoom:0.8]"
  tabindex="0"
  role="region"
  aria-label={label}
  {@attach follow}
>
  <DecoratedPage {page} {label} {decorations} />
</div>
