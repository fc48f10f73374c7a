<script lang="ts">
  import { Node } from 'prosemirror-model';
  import { writePoints } from '$core/marking/points';
  import { descriptorsOf, stepAt } from '$core/marking/rubric-steps';
  import type { Scoring } from '$core/marking/scoring';
  import { schema } from '$core/page/schema';
  import DecoratedPage from '../history/DecoratedPage.svelte';
  import Sheet from '../shell/Sheet.svelte';
  import type { Examples } from './examples.svelte';

  /** An example of a step: the page, without the name of whoever wrote it. */
  let { examples, rubric }: { examples: Examples; rubric: Scoring['rubric'] } = $props();
  const shown = $derived(examples.shown);
  const criterion = $derived(rubric.table.criteria.find(({ id }) => id === shown?.criterion));
  const step = $derived(shown && stepAt(rubric.table, shown.points));
  const title = $derived(
    shown ? `An example of ${writePoints(shown.points)} in ${criterion?.title ?? ''}` : '',
  );
</script>

<Sheet bind:open={() => shown !== null, (open) => !open && (examples.shown = null)} {title} wide>
  {#if shown}
    <p class="text-sm text-ink2">
      {#if step && criterion}{descriptorsOf(rubric.table, criterion.id, step)
          .map(({ says }) => says)
          .join(' / ')}{/if}
    </p>
    <div class="mt-3 max-h-[60vh] overflow-auto border border-rule bg-(--page) px-8 py-3">
      <DecoratedPage page={Node.fromJSON(schema, shown.doc)} label={title} />
    </div>
    <div class="mt-3 flex flex-wrap items-center gap-3">
      <p class="min-w-0 flex-1 text-sm text-ink2">
        Names are left out of its words; what pictures and drawn lines show stays. Who scores by
        this rubric sees it.
      </p>
      <button type="button" class="act" onclick={() => shown && examples.putAway(shown)}
        >No example any more</button
      >
      <button type="button" class="act act-main" onclick={() => (examples.shown = null)}
        >Close</button
      >
    </div>
  {/if}
</Sheet>
