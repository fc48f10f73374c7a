<script lang="ts">
  import { writePoints } from '$core/marking/points';
  import { saySum, stepAt, sumOf } from '$core/marking/rubric-steps';
  import type { ClassmatesFeedback, ClassmatesScoring } from '$core/marking/student-scoring';

  type Given = ClassmatesFeedback & Partial<ClassmatesScoring>;
  interface Props {
    given: readonly Given[];
    /** Keeps what one gave from going back, or lets it; for the staff. */
    withhold?: (by: string, withheld: boolean) => Promise<void>;
  }
  /** What classmates gave a copy, by its rubric. */
  let { given, withhold }: Props = $props();
</script>

{#snippet all()}
  {#each given as { who, scoring, by, withheld }, index (by ?? index)}
    {@const { table } = scoring.rubric}
    <article class="mt-3" aria-label={who ?? `A classmate, ${index + 1} of ${given.length}`}>
      <div class="flex flex-wrap items-baseline gap-x-3">
        <h3 class="flex-1 font-bold">{who ?? 'A classmate'}</h3>
        <span class="text-sm">{saySum(sumOf(table, scoring.criteria))}</span>
        {#if withhold && by}<button
            type="button"
            class="act act-small"
            aria-pressed={withheld}
            title="Whether it goes back to whoever wrote the copy"
            onclick={() => withhold?.(by, !withheld)}
            >{withheld ? 'Let it go back' : 'Withhold'}</button
          >{/if}
      </div>
      {#if withheld}<p class="text-sm text-rust">Withheld: it does not go back.</p>{/if}
      <dl class="mt-1 text-sm">
        {#each table.criteria as criterion (criterion.id)}
          {@const one = scoring.criteria.find(({ id }) => id === criterion.id)}
          {@const step = stepAt(table, one?.points ?? null)}
          <div class="grid grid-cols-[1fr_auto] gap-x-4 border-b border-rule py-1">
            <dt>{criterion.title}</dt>
            <dd class="text-right">{step ? writePoints(step.points) : 'not scored'}</dd>
            {#if one?.words}<dd
                class="col-span-2 border-l-3 border-ice pl-3 wrap-anywhere whitespace-pre-line"
              >
                {one.words}
              </dd>{/if}
          </div>
        {/each}
      </dl>
    </article>
  {/each}
{/snippet}

<section class="mt-6 border-t-2 border-ink pt-3" aria-label="From classmates">
  {#if withhold}<details>
      <summary class="cursor-pointer font-bold">From classmates · {given.length}</summary>
      <p class="text-sm text-ink2">It goes back with the copy, and counts nowhere.</p>
      {@render all()}
    </details>
  {:else}<h2 class="font-bold">From classmates</h2>
    {@render all()}{/if}
</section>
