<script lang="ts">
  import type { Happened, WeekStory } from '$core/board/story-of-weeks';
  import { lengthOf, sayDate, when } from '$core/calendar/say-time';
  import { writePoints } from '$core/marking/points';
  import Bars from '$ui/charts/Bars.svelte';

  interface Props {
    /** In the order of the term. */
    weeks: readonly WeekStory[];
    /** By the pages' ids. */
    titles: ReadonlyMap<string, string>;
    now: number;
    timeZone: string;
  }
  let { weeks, titles, now, timeZone }: Props = $props();

  const WORK = [
    ['lessons', 'in lessons', '--spruce'],
    ['other', 'otherwise by day', '--ice'],
    ['evenings', 'in the evening', '--ink'],
  ] as const;
  const minutes = (time: number) => Math.round(time / 60_000);
  const timeOf = ({ lessons, evenings, other }: WeekStory) => lessons + evenings + other;
  const titleOf = (page: string) => titles.get(page) ?? 'a page that was removed';
  const told = $derived([...weeks].reverse());
  const anything = $derived(weeks.some((week) => timeOf(week) > 0 || week.happened.length > 0));

  const sayEvent = ({ page, kind, at, points }: Happened) =>
    `${kind} ${titleOf(page)}${points === null ? '' : ` with ${writePoints(points)} points`}, ${when(at, now, timeZone)}`;
</script>

{#if anything}
  <h2 class="mt-8 border-b-2 border-ink pb-1 font-bold">The story of the weeks</h2>
  <Bars
    labels={weeks.map(({ number }) => `wk ${number}`)}
    series={WORK.map(([of, label, color]) => ({
      label,
      color,
      values: weeks.map((week) => minutes(week[of])),
    }))}
    says="Minutes of work by week: {weeks
      .map((week) => `week ${week.number} ${minutes(timeOf(week))}`)
      .join(', ')}"
  />
  <ol class="mt-3">
    {#each told as week (week.monday)}
      <li class="flex gap-4 border-b border-rule py-2">
        <span class="w-24 shrink-0 text-sm text-ink2"
          ><strong class="block text-ink">Week {week.number}</strong>{sayDate(week.monday)}</span
        >
        <div class="min-w-0 flex-1 wrap-anywhere">
          {#if timeOf(week) > 0}
            <p>
              {lengthOf(timeOf(week))} of work{week.evenings > 0
                ? `, ${lengthOf(week.evenings)} of it in the evening`
                : ''}:
              {week.pages.map(({ page, time }) => `${titleOf(page)} ${lengthOf(time)}`).join(', ')}.
            </p>
          {:else}<p class="text-ink2">{week.holiday ? 'Holiday.' : 'Nothing written.'}</p>{/if}
          {#each week.happened as one, index (index)}<p class="text-sm text-ink2">
              {sayEvent(one)}
            </p>{/each}
        </div>
      </li>
    {/each}
  </ol>
{/if}
