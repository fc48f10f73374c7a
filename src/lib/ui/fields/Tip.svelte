<script lang="ts">
  import { Tooltip } from '@skeletonlabs/skeleton-svelte';
  import type { Snippet } from 'svelte';
  import type { HTMLButtonAttributes } from 'svelte/elements';

  interface Props extends HTMLButtonAttributes {
    /** What is shown beside a button that is only a picture, and heard of it. */
    says: string;
    children: Snippet;
  }
  let { says, children, ...button }: Props = $props();
  let open = $state(false);
</script>

<Tooltip
  {open}
  onOpenChange={(change) => (open = change.open)}
  openDelay={500}
  closeDelay={80}
  positioning={{ strategy: 'fixed', placement: 'bottom', gutter: 4 }}
>
  <Tooltip.Trigger type="button" aria-label={says} {...button}>{@render children()}</Tooltip.Trigger
  >
  {#if open}<Tooltip.Positioner>
      <Tooltip.Content class="z-50 rounded-md bg-ink px-2 py-1 text-sm text-sheet"
        >{says}</Tooltip.Content
      >
    </Tooltip.Positioner>{/if}
</Tooltip>
