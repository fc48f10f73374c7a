<script lang="ts">
  import Search from '@lucide/svelte/icons/search';
  import type { Component } from 'svelte';
  import { isWriting } from '../is-writing';
  import Sheet from './Sheet.svelte';

  let shown = $state(false);
  /** Comes when it is first asked for. */
  let Panel: Component<{ close: () => void }> | null = $state(null);
  const close = () => (shown = false);

  async function open() {
    Panel ??= await import('./FindPanel.svelte').then(
      (module) => module.default,
      () => null,
    );
    shown = true;
  }
  function onkeydown(event: KeyboardEvent) {
    if (event.key !== '/' || event.ctrlKey || event.metaKey || event.altKey) return;
    if (isWriting(event)) return;
    event.preventDefault();
    void open();
  }
</script>

<svelte:window {onkeydown} />
<button
  class="grid h-9 w-9 place-items-center rounded-lg text-ink2 hover:text-ink"
  aria-label="Find anything"
  aria-keyshortcuts="/"
  onclick={open}><Search size={20} aria-hidden="true" /></button
>
<Sheet bind:open={shown} title="Find anything" bare>
  {#if Panel}<Panel {close} />
  {:else}
    <p class="p-5" role="alert">The server does not answer. Please try again.</p>
    <p class="px-5 pb-5"><button class="act" onclick={close}>Close</button></p>
  {/if}
</Sheet>
