<script lang="ts">
  import { writePoints } from '$core/marking/points';
  import type { Examples } from './examples.svelte';

  interface Props {
    examples: Examples;
    criterion: string;
    points: string;
  }
  /** What there is to be seen of a step. */
  let { examples, criterion, points }: Props = $props();
  const some = $derived(examples.of(criterion, points));
</script>

{#each some as one, index (one.id)}
  <button
    type="button"
    class="ml-1 rounded-full border border-ice px-2 text-xs text-ink hover:bg-ice-pale"
    aria-label="Example {some.length > 1 ? `${index + 1} ` : ''}of {writePoints(points)}"
    onclick={() => examples.open(one.id)}>example{some.length > 1 ? ` ${index + 1}` : ''}</button
  >
{/each}
