<script lang="ts">
  import { counted } from '$core/lists/counted';
  import { samePoints, writePoints } from '$core/marking/points';
  import { descriptorsOf, stepAt, stepsOf, sumOf } from '$core/marking/rubric-steps';
  import type { Scoring } from '$core/marking/scoring';

  interface Props {
    scoring: Scoring;
    /** What whoever reads it scored it with themselves. */
    own?: Scoring | null;
    /** Who scored, and when, in words. */
    by: string;
    at: string;
    /** What the copy was given, of what its assignment counts for; null where it counts no points. */
    points: string | null;
    most: string | null;
  }
  let { scoring, own: self = null, by, at, points, most }: Props = $props();
  const { table } = $derived(scoring.rubric);
  const steps = $derived(stepsOf(table));
  const best = $derived(steps[steps.length - 1]?.points ?? '0');
  const sum = $derived(sumOf(table, scoring.criteria));
</script>

<section class="mt-8 border-t-2 border-ink pt-4" aria-label="Feedback sheet">
  <div class="flex flex-wrap items-baseline gap-x-4">
    <h2 class="flex-1 font-bold">Feedback sheet · {scoring.rubric.title}</h2>
    <p class="text-sm text-ink2">{by}, {at}</p>
  </div>
  <dl class="mt-2">
    {#each table.criteria as criterion (criterion.id)}
      {@const own = scoring.criteria.find(({ id }) => id === criterion.id)}
      {@const step = stepAt(table, own?.points ?? null)}
      {@const said = self?.criteria.find(({ id }) => id === criterion.id)?.points ?? null}
      {@const reached = steps.findIndex(({ points }) => points === step?.points)}
      <div class="grid grid-cols-[1fr_auto] gap-x-4 border-b border-rule py-2">
        <dt class="font-bold">{criterion.title}</dt>
        <dd class="flex items-center gap-3 text-right">
          <span class="flex items-center gap-1" aria-hidden="true">
            {#each steps as { points: of, levels }, at (of)}
              {#if levels.length === 1}<span
                  class={[
                    'h-2.5 w-2.5 rounded-full border-2',
                    at <= reached ? 'border-spruce bg-spruce' : 'border-ink2',
                  ]}
                ></span>
              {:else if at === reached}<span class="h-2 w-2 rotate-45 rounded-xs bg-spruce"
                ></span>{/if}
            {/each}
          </span>
          <span
            >{#if step}<strong>{writePoints(step.points)}</strong> of {writePoints(best)}{:else}not
              scored{/if}{#if said !== null}<span class="text-sm text-ink2"
                >; you: {writePoints(said)}</span
              >{/if}</span
          >
        </dd>
        <dd class="col-span-2 text-sm">
          {#if step}
            {#each descriptorsOf(table, criterion.id, step) as { points: of, says } (of)}
              {#if says}<p class="text-ink2">
                  {step.levels.length > 1 ? `${of}: ` : ''}{says}
                </p>{/if}
            {/each}
          {/if}
          {#if own?.words}<p class="mt-1 border-l-3 border-ice bg-ice-pale px-3 py-1">
              {own.words}
            </p>{/if}
        </dd>
      </div>
    {/each}
  </dl>
  <p class="mt-3 text-lg">
    <strong>{writePoints(sum.points)} of {writePoints(sum.most)}</strong>{sum.left > 0
      ? `, with ${counted(sum.left, 'criterion', 'criteria')} not scored`
      : ''}
    {#if scoring.overruled}
      by the rubric. {by} gave {writePoints(scoring.overruled.points)} instead: {scoring.overruled
        .reason}
    {:else if points !== null && most !== null && !samePoints(most, sum.most)}
      by the rubric: {writePoints(points)} of {writePoints(most)} points, the same share.
    {/if}
  </p>
</section>
