<script lang="ts">
  import type { Dealing } from './dealing.svelte';

  interface Props {
    dealing: Pick<Dealing<never>, 'sentence' | 'canUndo' | 'sending' | 'undo'>;
    /** What was done, in a sentence. */
    says: string;
  }
  /** What became of a deal of copies, and how it is undone. */
  let { dealing, says }: Props = $props();
</script>

{#if dealing.sentence}<p class="trouble mt-3" role="alert">{dealing.sentence}</p>{/if}
{#if dealing.canUndo}<p class="notice mt-3 flex items-center gap-3" role="status">
    <span class="flex-1">{says}</span>
    <button class="act act-small" disabled={dealing.sending} onclick={dealing.undo}>Undo</button>
  </p>{/if}
