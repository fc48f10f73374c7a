<script lang="ts">
  import type { Talk } from './talk';

  interface Props {
    attachment: string;
    /** Of a document: which page this is, from 1. */
    page?: number | null;
    talk: Talk;
  }
  /** The places on a picture, or on a page, that comments are tied to: it covers what they stand on. */
  let { attachment, page = null, talk }: Props = $props();

  const onIt = $derived(talk.threads.filter(({ on }) => on?.attachment === attachment));
  const pins = $derived(
    onIt.flatMap(({ id, on, comments }, index) =>
      on?.spot.kind === 'point' && on.spot.page === page
        ? { id, spot: on.spot, number: index + 1, says: comments[0]?.text ?? '' }
        : [],
    ),
  );
  // It may have come into being after it was chosen.
  const chosen = $derived(pins.find(({ id }) => id === talk.chosen)?.id);
  $effect(() => {
    if (chosen) document.getElementById(`pin-${chosen}`)?.scrollIntoView({ block: 'nearest' });
  });
  const picked = $derived(
    talk.picked?.attachment === attachment &&
      talk.picked.spot.kind === 'point' &&
      talk.picked.spot.page === page
      ? talk.picked.spot
      : null,
  );
</script>

{#each pins as { id, spot, number, says } (id)}
  <button
    id="pin-{id}"
    class={[
      'absolute z-10 flex size-7 -translate-x-1/2 -translate-y-1/2 items-center justify-center rounded-full border-2 border-sheet text-sm font-bold shadow',
      talk.chosen === id ? 'bg-lamp text-ink' : 'bg-ice text-ink',
    ]}
    style:left="{spot.x * 100}%"
    style:top="{spot.y * 100}%"
    aria-pressed={talk.chosen === id}
    aria-label="Comment {number}: {says.slice(0, 80)}"
    onclick={() => talk.choose(id)}>{number}</button
  >
{/each}
{#if picked}<span
    class="pointer-events-none absolute z-10 size-7 -translate-x-1/2 -translate-y-1/2 rounded-full border-2 border-dashed border-ink bg-lamp-pale/70"
    style:left="{picked.x * 100}%"
    style:top="{picked.y * 100}%"
  ></span>{/if}
