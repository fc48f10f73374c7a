<script lang="ts">
  import { sayMoment } from '$core/attached/spot';
  import type { Talk } from './talk';

  interface Props {
    attachment: string;
    as: 'sound' | 'film';
    source: string;
    name: string;
    talk: Talk | null;
  }
  /** Sound or film, with the moments that comments are tied to. */
  let { attachment, as, source, name, talk }: Props = $props();

  let now = $state(0);
  const moments = $derived(
    (talk?.threads ?? [])
      .flatMap(({ id, on, comments }) =>
        on?.attachment === attachment && on.spot.kind === 'moment'
          ? { id, at: on.spot.seconds, says: comments[0]?.text ?? '' }
          : [],
      )
      .sort((a, b) => a.at - b.at),
  );
  const chosen = $derived(moments.find(({ id }) => id === talk?.chosen));
  $effect(() => {
    if (!chosen) return;
    now = chosen.at;
    document.getElementById(`pin-${chosen.id}`)?.scrollIntoView({ block: 'nearest' });
  });
</script>

{#if as === 'sound'}
  <audio class="w-full" controls src={source} aria-label={name} bind:currentTime={now}></audio>
{:else}
  <!-- svelte-ignore a11y_media_has_caption (a student's own film has none) -->
  <video
    class="max-h-[70vh] max-w-full"
    controls
    src={source}
    aria-label={name}
    bind:currentTime={now}
  ></video>
{/if}
{#if talk}
  <div class="mt-1 flex flex-wrap items-center gap-2">
    {#each moments as { id, at, says } (id)}
      <button
        id="pin-{id}"
        class={['act act-small', talk.chosen === id && 'bg-lamp-pale']}
        aria-pressed={talk.chosen === id}
        onclick={() => {
          now = at;
          talk.choose(id);
        }}>{sayMoment(at)}<span class="sr-only">: {says.slice(0, 80)}</span></button
      >
    {/each}
    {#if talk.pick}<button
        class="act act-small"
        onclick={() =>
          talk.pick?.({ attachment, spot: { kind: 'moment', seconds: now }, quote: '' })}
        >Comment at {sayMoment(now)}</button
      >{/if}
  </div>
{/if}
