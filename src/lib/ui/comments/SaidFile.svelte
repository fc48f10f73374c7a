<script lang="ts">
  import type { SaidFile } from '$core/copy/said-file';

  interface Props {
    file: SaidFile;
    source: string;
    /** The words beside it; empty where they are not there yet. */
    says: string;
  }
  /** The picture of a comment, or what was spoken. */
  let { file, source, says }: Props = $props();
</script>

{#if file.as === 'picture'}<a class="mt-1 block" href={source} target="_blank" rel="noopener"
    ><img class="max-h-48 max-w-full border border-rule" src={source} alt={says || file.name} /></a
  >{:else}<audio
    class="mt-1 h-9 w-full"
    controls
    preload="metadata"
    src={source}
    aria-label="Spoken comment{says ? `: ${says}` : ''}"
  ></audio>{/if}
