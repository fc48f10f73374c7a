<script lang="ts">
  import History from '@lucide/svelte/icons/history';
  import { onMount, type Component } from 'svelte';

  interface Props {
    /** Where its history is asked for: `/pages/…` of a copy, `/editor/…` of an original. */
    at: string;
    /** What has to be saved before the page is put back. */
    flush?: () => Promise<unknown>;
  }
  let props: Props = $props();

  /** Comes when it is first asked for. */
  let Panel: Component<Props & { close: () => void }> | null = $state(null);
  let open = $state(false);
  let trouble = $state('');

  // Whoever comes for it finds it open.
  onMount(() => void (location.hash === '#how-written' && show()));

  async function show() {
    trouble = '';
    Panel ??= await import('./LookBack.svelte').then(
      (module) => module.default,
      () => null,
    );
    open = Panel !== null;
    if (!Panel) trouble = 'The server does not answer. Please try again.';
  }
</script>

<section class="mt-8 border-t border-rule pt-3" aria-labelledby="how-written">
  <h2 id="how-written">
    <button
      class="act act-small act-plain gap-2 font-bold"
      aria-expanded={open}
      onclick={() => (open ? (open = false) : show())}
      ><History size={17} aria-hidden="true" /> How it was written</button
    >
  </h2>
  {#if trouble}<p class="trouble mt-2" role="alert">{trouble}</p>{/if}
  {#if open && Panel}<Panel {...props} close={() => (open = false)} />{/if}
</section>
