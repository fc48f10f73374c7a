<script lang="ts">
  import type { Difference } from '$core/lists/differences';
  import { bringIntoView } from './shell/bring-into-view';

  interface Props {
    /** Who saved it meanwhile. */
    by: string;
    differences: Difference[];
    takeTheirs: () => void;
    saveMine: () => void;
  }
  let { by, differences, takeTheirs, saveMine }: Props = $props();
</script>

<section
  class="notice mt-3"
  role="alert"
  aria-label="Saved by somebody else meanwhile"
  {@attach bringIntoView}
>
  <p>
    <strong>{by} saved this meanwhile.</strong> Yours is not saved yet, and is still here. What differs:
  </p>
  <dl class="mt-2 grid grid-cols-[auto_1fr_1fr] gap-x-5 gap-y-1 text-sm">
    <dt><span class="sr-only">What</span></dt>
    <dd class="font-bold">Yours</dd>
    <dd class="font-bold">Theirs</dd>
    {#each differences as one (one.what)}
      <dt class="col-start-1 text-ink2">{one.what}</dt>
      <dd>{one.mine || '–'}</dd>
      <dd>{one.theirs || '–'}</dd>
    {:else}
      <dt class="col-start-1 col-end-4">Nothing in what this view shows.</dt>
    {/each}
  </dl>
  <div class="mt-3 flex gap-2">
    <button type="button" class="act act-small" onclick={takeTheirs}>Take theirs</button>
    <button type="button" class="act act-small" onclick={saveMine}>Save mine over it</button>
  </div>
</section>
