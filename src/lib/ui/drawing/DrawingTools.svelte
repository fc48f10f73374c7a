<script lang="ts">
  import Eraser from '@lucide/svelte/icons/eraser';
  import Hand from '@lucide/svelte/icons/hand';
  import MapPin from '@lucide/svelte/icons/map-pin';
  import Pen from '@lucide/svelte/icons/pen';
  import Type from '@lucide/svelte/icons/type';
  import ZoomIn from '@lucide/svelte/icons/zoom-in';
  import ZoomOut from '@lucide/svelte/icons/zoom-out';
  import { INKS, PEN_WIDTHS } from '$core/page/drawing-nodes';
  import { colourOf } from '$core/page/drawing-svg';
  import Tip from '$ui/fields/Tip.svelte';
  import type { DrawingHand, Tool } from './drawing-hand.svelte';

  interface Props {
    hand: DrawingHand;
    isAuthor: boolean;
    /** How far it is, in words. */
    detail: string;
  }
  let { hand, isAuthor, detail }: Props = $props();

  const TOOLS: [Tool, string, typeof Pen][] = [
    ['move', 'Move', Hand],
    ['pen', 'Pen', Pen],
    ['eraser', 'Eraser', Eraser],
    ['label', 'Label', Type],
    ['spot', 'Place for a piece', MapPin],
  ];
  const LINES = ['Thin line', 'Medium line', 'Thick line'];
  const BUTTON = 'grid size-9 place-items-center rounded-md hover:bg-paper disabled:opacity-40';
</script>

<div class="flex flex-wrap items-center gap-0.5 pb-1" role="toolbar" aria-label="Drawing">
  {#each TOOLS as [tool, says, Icon] (tool)}
    {#if tool !== 'spot' || isAuthor}<Tip
        {says}
        class={[BUTTON, hand.tool === tool && 'bg-ice-pale']}
        aria-pressed={hand.tool === tool}
        onclick={(event) => hand.choose(tool, event.detail === 0)}
        ><Icon size={18} aria-hidden="true" /></Tip
      >{/if}
  {/each}
  {#if hand.tool === 'pen'}
    <span class="mx-1 h-5 border-l border-rule"></span>
    {#each INKS as ink (ink)}
      <Tip
        says="{ink} ink"
        class={BUTTON}
        aria-pressed={hand.ink === ink}
        onclick={() => (hand.ink = ink)}
        ><span
          class={[
            'size-4.5 rounded-full',
            hand.ink === ink && 'outline-2 outline-offset-2 outline-ink',
          ]}
          style:background={colourOf(ink)}
        ></span></Tip
      >
    {/each}
    {#each PEN_WIDTHS as width, index (width)}
      <Tip
        says={LINES[index] ?? ''}
        class={[BUTTON, hand.width === width && 'bg-ice-pale']}
        aria-pressed={hand.width === width}
        onclick={() => (hand.width = width)}
        ><span class="w-5 rounded-full bg-ink" style:height="{width / 2}px"></span></Tip
      >
    {/each}
  {/if}
  <span class="mx-1 h-5 border-l border-rule"></span>
  <Tip says="Smaller" class={BUTTON} disabled={!hand.mayShrink} onclick={() => hand.zoomBy(-1)}
    ><ZoomOut size={18} aria-hidden="true" /></Tip
  >
  <Tip says="Larger" class={BUTTON} disabled={!hand.mayGrow} onclick={() => hand.zoomBy(1)}
    ><ZoomIn size={18} aria-hidden="true" /></Tip
  >
  <span class="ml-auto text-sm text-ink2" aria-live="polite">{detail}</span>
  {#if hand.byFinger && !hand.hasPen}<button
      class="act act-small"
      onclick={() => (hand.byFinger = false)}>Stop drawing</button
    >{/if}
</div>
