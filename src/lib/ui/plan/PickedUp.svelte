<script lang="ts">
  import { clipboard } from './clipboard.svelte';

  /** What happens to what was taken up, in words. */
  let { says }: { says: string } = $props();
</script>

{#if clipboard.held}
  <div
    class="sticky top-0 z-20 mt-3 flex flex-wrap items-center gap-2 rounded-lg border border-ice bg-ice-pale px-4 py-2"
    role="status"
  >
    <span class="min-w-0 flex-1 truncate"
      >To {clipboard.held.move ? 'move' : 'copy'}: {clipboard.held.titles.join(', ')}. {says}</span
    >
    <button class="act act-small act-plain" onclick={() => clipboard.clear()}>Cancel</button>
  </div>
{/if}
