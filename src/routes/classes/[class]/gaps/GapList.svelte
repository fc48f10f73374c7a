<script lang="ts">
  import { CAUSES, gapKey, type Gap } from '$core/headcount/gap';
  import { remediesOf } from '$core/headcount/remedy';
  import {
    CAUSE_SAYS,
    sayBriefly,
    sayCount,
    sayDeed,
    sayDeedForAll,
  } from '$core/headcount/say-gap';
  import { grouped } from '$core/lists/grouped';
  import Rosette from '$ui/copy/Rosette.svelte';
  import type { BoardCell } from '../board-cells';
  import type { Chosen } from './mend-gaps';

  interface Props {
    gaps: readonly Gap[];
    counts: readonly { id: string; title: string; expected: number; there: number }[];
    /** The assignment that is looked at alone; empty for all. */
    only: string;
    timeZone: string;
    mayMend: boolean;
    /** The gap that is open. */
    open: string | null;
    nameOf: (students: readonly string[]) => string;
    titleOf: (assignment: string) => string;
    /** The cells of an assignment, in the order of its students. */
    cellsOf: (assignment: string) => readonly { student: string; cell: BoardCell | null }[];
    look: (assignment: string) => void;
    choose: (gap: Gap) => void;
    close: (chosen: readonly Chosen[]) => void;
  }
  /** The headcount of what has gaps, and the gaps themselves, by cause. */
  let {
    gaps,
    counts,
    only,
    timeZone,
    mayMend,
    open,
    nameOf,
    titleOf,
    cellsOf,
    look,
    choose,
    close,
  }: Props = $props();

  const gapsOf = $derived(grouped(gaps, ({ assignment }) => assignment));
  const short = $derived(counts.filter(({ id }) => gapsOf.has(id)));
  const alone = $derived(
    short.find(({ id }) => id === only) ?? (short.length === 1 ? short[0] : undefined),
  );
  const shown = $derived(alone ? (gapsOf.get(alone.id) ?? []) : gaps);
  const byCause = $derived(grouped(shown, ({ cause }) => cause));
  const isGap = (student: string, assignment: string) =>
    gapsOf
      .get(assignment)
      ?.some(({ cause, students }) => cause !== 'attached' && students.includes(student)) ?? false;
  const best = (some: readonly Gap[]): Chosen[] =>
    some.map((gap) => ({ gap, deed: remediesOf(gap)[0] }));
  /** Who lacks copies of several assignments, such as somebody who joined, has one line. */
  const linesOf = (cause: string, some: readonly Gap[]) =>
    cause === 'never made' && !alone
      ? [...grouped(some, ({ students }) => students.join(' ')).values()]
      : some.map((gap) => [gap]);
</script>

{#snippet strip(assignment: string)}
  <div class="mt-2 flex flex-wrap gap-1.5" aria-hidden="true">
    {#each cellsOf(assignment) as { student, cell } (student)}
      <Rosette
        mask={cell?.mask ?? ''}
        state={cell?.state ?? 'opened'}
        points={cell?.points ?? null}
        beside={false}
        gap={isGap(student, assignment)}
        size={26}
      />
    {/each}
  </div>
{/snippet}

<div class="min-h-0 flex-1 overflow-auto pb-6">
  <div class="border border-rule bg-sheet">
    <div class="flex flex-wrap items-center gap-3 px-3 py-2">
      <h2 class="flex-1 font-bold">
        Headcount <span class="ml-1 text-sm font-normal text-ink2">{shown.length}</span>
      </h2>
      {#if alone && short.length > 1}
        <button class="act act-small" onclick={() => look('')}>All assignments</button>
      {/if}
      {#if mayMend && shown.length > 1}
        <button class="act act-small" onclick={() => close(best(shown))}
          >Close all {shown.length} …</button
        >
      {/if}
    </div>
    <ul class="border-t border-rule" aria-label="Headcount">
      {#each alone ? [alone] : short as count (count.id)}
        <li class="border-b border-rule px-3 py-1.5 last:border-b-0 wrap-anywhere">
          {#if alone}
            <strong>{count.title}</strong>
          {:else}
            <button
              class="min-h-6 text-left font-bold hover:underline"
              title="Look at its gaps alone"
              onclick={() => look(count.id)}>{count.title}</button
            >
          {/if}
          <span class="ml-1 text-sm text-ink2">{sayCount(count, gapsOf.get(count.id) ?? [])}</span>
          {#if alone}{@render strip(count.id)}{/if}
        </li>
      {/each}
    </ul>
  </div>
  {#each CAUSES.filter((cause) => byCause.has(cause)) as cause (cause)}
    {@const some = byCause.get(cause) ?? []}
    <section class="mt-3 border border-rule bg-sheet" aria-label={CAUSE_SAYS[cause]}>
      <div class="flex flex-wrap items-center gap-3 px-3 py-2">
        <h2 class="flex-1 font-bold">
          {CAUSE_SAYS[cause]}
          <span class="ml-1 text-sm font-normal text-ink2">{some.length}</span>
        </h2>
        {#if mayMend && some.length > 1}
          <button class="act act-small" onclick={() => close(best(some))}
            >{sayDeedForAll(remediesOf({ cause })[0], { cause }, some.length)} …</button
          >
        {/if}
      </div>
      <ul>
        {#each linesOf(cause, some) as line (line.map(gapKey).join())}
          {@const [gap] = line}
          {#if gap}
            {@const who = nameOf(gap.students)}
            {@const isOne = line.length === 1}
            <li
              class={[
                'flex flex-wrap items-center gap-3 border-t border-rule px-3 py-1.5',
                open === gapKey(gap) && 'bg-ice-pale',
              ]}
            >
              <Rosette
                mask={cause === 'attached' ? '1' : ''}
                state={cause === 'attached' ? 'attached' : 'opened'}
                gap={cause !== 'attached'}
                size={26}
              />
              <button
                class="min-h-6 w-44 text-left font-bold hover:underline"
                onclick={() => (isOne ? choose(gap) : close(best(line)))}>{who}</button
              >
              <span class="min-w-0 flex-1 text-sm wrap-anywhere text-ink2">
                {isOne
                  ? [alone ? '' : titleOf(gap.assignment), sayBriefly(gap, timeZone)]
                      .filter(Boolean)
                      .join(' · ')
                  : `${line.length} assignments, ${sayBriefly(gap, timeZone)}`}
              </span>
              {#if mayMend}
                <button
                  class="act act-small"
                  onclick={() => (isOne ? choose(gap) : close(best(line)))}
                  >{isOne
                    ? sayDeed(remediesOf(gap)[0], gap)
                    : sayDeedForAll(remediesOf(gap)[0], gap, line.length)} …<span class="sr-only">
                    {who}, {isOne ? titleOf(gap.assignment) : ''}</span
                  ></button
                >
              {/if}
            </li>
          {/if}
        {/each}
      </ul>
    </section>
  {/each}
</div>
