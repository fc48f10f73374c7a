<script lang="ts">
  import { writePoints } from '$core/marking/points';
  import { saySum, sumOf } from '$core/marking/rubric-steps';
  import type { Scoring } from '$core/marking/scoring';
  import type { Checked } from '$core/marking/check-copy';
  import { sayParts, sumParts } from '$core/marking/sum-parts';
  import FeedbackSheet from '$ui/marking/FeedbackSheet.svelte';
  import Sheet from '$ui/shell/Sheet.svelte';

  interface Props {
    entry: {
      what: string;
      by: string;
      points: string | null;
      scoring: Scoring | null;
      checked: Checked | null;
    };
    /** When, in words. */
    at: string;
    /** What the assignment counts for. */
    most: string | null;
  }
  let { entry, at, most }: Props = $props();
  let shown = $state(false);
</script>

<li>
  {at}
  {entry.what}{entry.points ? ` ${writePoints(entry.points)}` : ''}
  {#if entry.scoring}{@const sum = sumOf(entry.scoring.rubric.table, entry.scoring.criteria)}<button
      class="underline"
      onclick={() => (shown = true)}>{saySum(sum)} by the rubric</button
    >{/if}
  {#if entry.checked}: {sayParts(sumParts(entry.checked))}{/if}
  <span class="text-xs">· {entry.by}</span>
</li>
{#if entry.scoring}<Sheet bind:open={shown} title="As it was scored">
    <FeedbackSheet scoring={entry.scoring} by={entry.by} {at} points={entry.points} {most} />
    <p class="mt-4 text-right">
      <button class="act" onclick={() => (shown = false)}>Close</button>
    </p>
  </Sheet>{/if}
