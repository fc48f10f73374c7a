<script lang="ts">
  import Pins from './Pins.svelte';
  import { pointIn } from './pick-point';
  import type { Talk } from './talk';

  interface Props {
    attachment: string;
    source: string;
    name: string;
    talk: Talk | null;
  }
  /** A picture, with the points on it that comments are tied to. */
  let { attachment, source, name, talk }: Props = $props();

  function pick(event: MouseEvent & { currentTarget: Element }) {
    const spot = { kind: 'point' as const, page: null, ...pointIn(event.currentTarget, event) };
    talk?.pick?.({ attachment, spot, quote: '' });
  }
</script>

<div class="relative inline-block max-w-full">
  <!-- svelte-ignore a11y_click_events_have_key_events, a11y_no_noninteractive_element_interactions (a comment on all of it is begun from the list) -->
  <img
    class={['max-h-[70vh] max-w-full border border-rule', talk?.pick && 'cursor-crosshair']}
    src={source}
    alt={name}
    onclick={pick}
  />
  {#if talk}<Pins {attachment} {talk} />{/if}
</div>
