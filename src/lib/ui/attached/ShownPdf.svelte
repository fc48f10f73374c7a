<script lang="ts">
  import { openPdf } from '$ui/pdf/open-pdf';
  import PdfSheet from '$ui/pdf/PdfSheet.svelte';
  import Pins from './Pins.svelte';
  import { pointIn, wordsIn } from './pick-point';
  import type { Talk } from './talk';

  interface Props {
    attachment: string;
    source: string;
    name: string;
    talk: Talk | null;
  }
  /** A PDF document, page by page, with the points and words that comments are tied to. */
  let { attachment, source, name, talk }: Props = $props();

  let room = $state(0);
  const width = $derived(Math.max(240, Math.min(900, room - 26)));
  const opening = $derived(openPdf(source));
  $effect(() => {
    const mine = opening;
    return () => void mine.then((pdf) => pdf.destroy()).catch(() => undefined);
  });

  /** Whoever selects words ties the comment to them, whoever clicks to the point. */
  function pick(event: MouseEvent & { currentTarget: Element }, page: number) {
    if (!talk?.pick || (event.target instanceof Element && event.target.closest('button'))) return;
    const sheet = event.currentTarget;
    const words = wordsIn(sheet);
    const { quote, ...at } = words ?? { quote: '', ...pointIn(sheet, event) };
    talk.pick({ attachment, spot: { kind: 'point', page, ...at }, quote });
  }
</script>

<!-- svelte-ignore a11y_no_noninteractive_tabindex (what overflows must be scrolled by keyboard) -->
<div
  class="max-h-[75vh] min-h-40 overflow-auto border border-rule bg-paper p-3"
  tabindex="0"
  role="region"
  aria-label={name}
  bind:clientWidth={room}
>
  {#await opening}
    <p class="text-ink2" role="status">Opening …</p>
  {:then pdf}
    {#if room > 0}{#each { length: pdf.numPages }, index (index)}
        {@const page = index + 1}
        <!-- svelte-ignore a11y_click_events_have_key_events, a11y_no_static_element_interactions (a comment on all of it is begun from the list) -->
        <div
          class={['relative mx-auto mb-3 w-fit', talk?.pick && 'cursor-crosshair']}
          onclick={(event) => pick(event, page)}
        >
          <PdfSheet {pdf} number={page} {width} words label="Page {page} of {pdf.numPages}" />
          {#if talk}<Pins {attachment} {page} {talk} />{/if}
        </div>
      {/each}{/if}
  {:catch error}
    <p class="trouble" role="alert">
      {error instanceof Error ? error.message : ''} It can be downloaded.
    </p>
  {/await}
</div>
