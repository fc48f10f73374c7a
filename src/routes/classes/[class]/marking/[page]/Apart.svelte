<script lang="ts">
  import { listed } from '$core/lists/listed';

  /** How a copy stands that two people mark without seeing each other. */
  interface Props {
    apart: { by: string[]; isOne: boolean; bothThere: boolean };
    /** Where their scorings are settled. */
    settle: string;
  }
  let { apart, settle }: Props = $props();
</script>

<div class="notice mb-3" role="status">
  {#if apart.bothThere}
    <p>{listed(apart.by)} have both scored this copy.</p>
    <a class="act act-small mt-1" href={settle}>Settle …</a>
  {:else}
    <p>
      {listed(apart.by)} mark this copy, without seeing what the other gives.
      {apart.isOne ? 'What you give counts once you both have scored it.' : ''}
    </p>
  {/if}
</div>
