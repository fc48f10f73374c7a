<script lang="ts">
  import type { Component } from 'svelte';
  import { isWriting } from '../is-writing';

  let shown = $state(false);
  /** Comes when it is asked for. */
  let Keys: Component<{ open: boolean }, object, 'open'> | null = $state.raw(null);

  async function open(event: KeyboardEvent) {
    if (event.key !== '?' || isWriting(event)) return;
    event.preventDefault();
    shown = true;
    Keys ??= (await import('./Keys.svelte')).default;
  }
</script>

<svelte:window onkeydown={open} />
{#if Keys}<Keys bind:open={shown} />{/if}
