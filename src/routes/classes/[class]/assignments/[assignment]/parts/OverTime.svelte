<script lang="ts">
  import { CHARTED, type Charted } from '$core/board/states-over-time';
  import { sayDay, when } from '$core/calendar/say-time';
  import { listed } from '$core/lists/listed';
  import Bars from '$ui/charts/Bars.svelte';
  import type { Progress } from '$server/class/progress';

  interface Props {
    progress: Progress;
    timeZone: string;
  }
  let { progress, timeZone }: Props = $props();

  const COLORS: Record<Charted, string> = {
    'handed back': '--spruce',
    marked: '--quiet',
    'handed in': '--ink',
    working: '--ice',
    opened: '--lamp-pale',
    unopened: '--rule',
  };
  const shown = $derived(
    CHARTED.filter((state) => progress.states.some(({ counts }) => counts[state] > 0)),
  );
  const last = $derived(progress.states.at(-1));
  const now = $derived(last?.at ?? 0);
  const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];
  const WORK = [
    ['lessons', 'in lessons', '--spruce'],
    ['other', 'otherwise by day', '--ice'],
    ['evenings', 'in the evening', '--ink'],
  ] as const;
  const minutes = (time: number) => Math.round(time / 60_000);
  const worked = $derived(
    progress.week.reduce((sum, day) => sum + day.lessons + day.evenings + day.other, 0),
  );
  const sayWeek = $derived(
    progress.week
      .map((day, i) => `${DAYS[i]} ${minutes(day.lessons + day.evenings + day.other)}`)
      .join(', '),
  );
</script>

<div
  class="mt-6 grid max-w-6xl shrink-0 grid-cols-[minmax(0,1fr)] gap-x-8 gap-y-4 lg:grid-cols-[repeat(2,minmax(0,1fr))]"
>
  <section class="min-w-0" aria-labelledby="over-time">
    <h2 id="over-time" class="font-bold">How the copies stood over time</h2>
    <Bars
      dense
      labels={progress.states.map(({ at }) => when(at, at + 7 * 86_400_000, timeZone).slice(0, -6))}
      series={shown.map((state) => ({
        label: state,
        color: COLORS[state],
        values: progress.states.map(({ counts }) => counts[state]),
      }))}
      says="{sayDay(now, timeZone)}: {listed(
        shown.map((state) => `${last?.counts[state] ?? 0} ${state}`),
      )}"
    />
    {#if progress.due !== null}<p class="text-sm text-ink2">
        {progress.due < now ? 'Was due' : 'Due'}
        {sayDay(progress.due, timeZone)}.
      </p>{/if}
  </section>
  <section class="min-w-0" aria-labelledby="in-the-week">
    <h2 id="in-the-week" class="font-bold">When they worked, minutes by weekday</h2>
    {#if worked > 0}<Bars
        labels={DAYS}
        series={WORK.map(([of, label, color]) => ({
          label,
          color,
          values: progress.week.map((day) => minutes(day[of])),
        }))}
        says="Minutes of work by weekday: {sayWeek}"
      />{:else}<p class="mt-1 text-ink2">Nobody has worked on it yet.</p>{/if}
  </section>
</div>
