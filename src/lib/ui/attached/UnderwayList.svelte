<script lang="ts">
  import { saySize } from '$core/attached/shown-as';
  import Bar from '$ui/fields/Bar.svelte';
  import type { Uploads } from './uploads.svelte';

  /** Files on their way. */
  let { uploads }: { uploads: Uploads } = $props();
</script>

<svelte:window onbeforeunload={(event) => uploads.underway.length > 0 && event.preventDefault()} />

{#each uploads.underway as one (one)}
  <div class="mt-2 border border-rule px-3 py-2">
    <p class="flex flex-wrap items-center gap-3">
      <span class="min-w-40 flex-1 wrap-anywhere">{one.name}</span>
      <span class="text-sm text-ink2" role="status"
        >{one.waits
          ? 'waits for the network, and goes on by itself'
          : `${saySize(one.sent)} of ${saySize(one.size)}`}</span
      >
      {#if one.trouble}<button class="act act-small" onclick={() => uploads.again(one)}
          >Try again</button
        >{/if}
      <button class="act act-small act-plain" onclick={() => uploads.cancel(one)}
        >Cancel<span class="sr-only"> {one.name}</span></button
      >
    </p>
    {#if one.trouble}<p class="trouble mt-2" role="alert">{one.trouble}</p>{:else}
      <div class="mt-1.5"><Bar label={one.name} done={one.sent} total={one.size} /></div>
    {/if}
  </div>
{/each}
