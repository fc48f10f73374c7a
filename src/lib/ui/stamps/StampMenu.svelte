<script lang="ts">
  import type { EditorView } from 'prosemirror-view';
  import { partsOf, placeOfPart } from '$core/page/parts';
  import Menu from '../shell/Menu.svelte';
  import type { StampHand } from './stamp-hand.svelte';
  import StampPicture from './StampPicture.svelte';

  interface Props {
    hand: StampHand;
    view: EditorView | null;
    /** Whether words are selected: a stamp goes on them at once. */
    selected: boolean;
  }
  let { hand, view, selected }: Props = $props();

  const parts = $derived(hand.picked && view ? partsOf(view.state.doc) : []);
  function pick(one: StampHand['all'][number]) {
    hand.picked = one;
    if (!selected || !view) return;
    const { from, to } = view.state.selection;
    void hand.put({ from, to }, view);
  }
  function onPart(id: string) {
    const place = view && placeOfPart(view.state.doc, id);
    if (place) void hand.put(place, view);
  }
</script>

<svelte:window
  onkeydown={(event) => {
    if (event.key === 'Escape') hand.picked = null;
  }}
/>

<Menu label="Stamps" look="act act-small">
  {#snippet button()}<span {@attach () => void hand.load()}>Stamp …</span>{/snippet}
  <div class="grid max-h-80 grid-cols-3 overflow-auto">
    {#each hand.all as one (one.word + JSON.stringify(one.stamp))}
      <button
        type="button"
        class="flex flex-col items-center px-1! text-center! text-xs leading-tight"
        onclick={() => pick(one)}><StampPicture stamp={one.stamp} />{one.word}</button
      >
    {/each}
  </div>
  <hr class="my-1 border-rule" />
  <a href="/phrasebook#stamps">Your own stamps …</a>
</Menu>
{#if hand.picked}
  <div class="notice mt-2 w-full" role="status">
    <p class="flex items-center gap-2">
      <StampPicture stamp={hand.picked.stamp} size={28} />
      <span class="flex-1"
        >“{hand.picked.word}”: click where it belongs, or press Enter at the caret; or put it
      </span>
    </p>
    <div class="mt-1.5 flex flex-wrap gap-1.5">
      <button type="button" class="act act-small" onclick={() => hand.put(null, view)}
        >on the whole copy</button
      >
      {#each parts as { id, number } (id)}
        <button type="button" class="act act-small" onclick={() => onPart(id)}
          >on part {number}</button
        >
      {/each}
      <button type="button" class="act act-small act-plain" onclick={() => (hand.picked = null)}
        >Cancel</button
      >
    </div>
  </div>
{/if}
