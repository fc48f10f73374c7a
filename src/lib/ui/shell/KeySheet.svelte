<script lang="ts">
  import type { Component } from 'svelte';

  let shown = $state(false);
  /** Comes when it is asked for. */
  let Keys: Component<{ open: boolean }, object, 'open'> | null = $state.raw(null);

  async function open(event: KeyboardEvent) {
    const target = event.target instanceof HTMLElement ? event.target : null;
    if (
      event.key !== '?' ||
      target?.closest('input, textarea, select, [contenteditable="true"][aria-readonly="false"]')
    )
      return;
    event.preventDefault();
    shown = true;
    Keys ??= (await import('./Keys.svelte')).default;
  }
</script>

<svelte:window onkeydown={open} />
{#if Keys}<Keys bind:open={shown} />{/if}
