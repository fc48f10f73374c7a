<script lang="ts">
  import { stateOf } from '$core/copy/state';
  import type { CopyRow } from '$core/copy/copy-row';
  import { writePoints } from '$core/marking/points';
  import type { Checked } from '$core/marking/check-copy';
  import type { Scoring } from '$core/marking/scoring';
  import CheckedSheet from '$ui/marking/CheckedSheet.svelte';
  import FeedbackSheet from '$ui/marking/FeedbackSheet.svelte';

  /** What a copy was given, to be read. */
  interface Props {
    copy: CopyRow;
    most: string | null;
    given: { scoring: Scoring | null; checked: Checked | null } | null;
    /** Who scored it, and when, in words. */
    by: string;
    at: string;
  }
  let { copy, most, given, by, at }: Props = $props();
  const isBack = $derived(stateOf(copy.facts) === 'handed back');
</script>

<h2 class="font-bold">Points</h2>
<p>
  {#if copy.points === null}none{:else}<strong>{writePoints(copy.points)}</strong>{most
      ? ` of ${writePoints(most)}`
      : ''}, {isBack ? 'handed back' : 'kept back'}{/if}
</p>
{#if given?.scoring}<FeedbackSheet
    scoring={given.scoring}
    {by}
    {at}
    points={copy.points}
    {most}
  />{/if}
{#if given?.checked}<CheckedSheet checked={given.checked} />{/if}
