<script lang="ts">
  import { differences } from '$core/lists/differences';
  import { counted } from '$core/lists/counted';
  import { describeRubric } from '$core/marking/describe-rubric';
  import type { RubricTable } from '$core/marking/rubric';
  import { totalOf } from '$core/marking/rubric-steps';

  interface Props {
    /** The rubric as it stands. */
    now: RubricTable;
    /** What the table says. */
    read: RubricTable;
    take: () => void;
    leave: () => void;
  }
  let { now, read, take, leave }: Props = $props();
  const changes = $derived(differences(describeRubric('', now), describeRubric('', read)));
</script>

<section class="notice mt-3" aria-label="What the table says">
  <p>
    <strong
      >The table has {counted(read.criteria.length, 'criterion', 'criteria')}, {totalOf(read)} points
      in all.</strong
    >
    {changes.length > 0
      ? 'Nothing is changed yet. It would change:'
      : 'It says what the rubric says already.'}
  </p>
  {#if changes.length > 0}
    <dl class="mt-2 grid max-h-80 grid-cols-[auto_1fr_1fr] gap-x-5 gap-y-1 overflow-auto text-sm">
      <dt><span class="sr-only">What</span></dt>
      <dd class="font-bold">Now</dd>
      <dd class="font-bold">In the table</dd>
      {#each changes as { what, mine, theirs } (what)}
        <dt class="col-start-1 text-ink2">{what}</dt>
        <dd class="whitespace-pre-line">{mine || '–'}</dd>
        <dd class="whitespace-pre-line">{theirs || '–'}</dd>
      {/each}
    </dl>
  {/if}
  <div class="mt-3 flex gap-2">
    {#if changes.length > 0}
      <button type="button" class="act act-small act-main" onclick={take}
        >Take the table over</button
      >
    {/if}
    <button type="button" class="act act-small" onclick={leave}>Leave the rubric as it is</button>
  </div>
</section>
