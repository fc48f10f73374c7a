<script lang="ts">
  import { Slider } from '@skeletonlabs/skeleton-svelte';
  import { LANGUAGE } from '$core/language';
  import { weeksOf } from '$core/calendar/weeks';
  import type { TermView } from '$core/calendar/term';
  import { sayClock, sayTime, when } from '$core/calendar/say-time';

  interface Props {
    term: TermView;
    due: { id: string; title: string; at: number }[];
    now: number;
    timeZone: string;
    /** The moment that is looked back to; null for now. */
    at: number | null;
    look: (at: number | null) => void;
  }
  let { term, due, now, timeZone, at, look }: Props = $props();

  const DAY = 86_400_000;
  const from = $derived(Date.parse(term.starts));
  const to = $derived(Date.parse(term.ends) + DAY);
  const place = (at: number) => Math.min(100, Math.max(0, ((at - from) / (to - from)) * 100));
  const dayPlace = (date: string) => place(Date.parse(date));

  /** The line is moved along by hours; before its term and after it there is nothing to move back to. */
  const HOUR = 3_600_000;
  const last = $derived(Math.max(from, Math.min(now, to)));
  /** Where the lamp is while it is moved; null while it is not. */
  let moved: number | null = $state(null);
  const lamp = $derived(moved ?? at ?? last);
  /** The end of the line is now, though no hour is full. */
  const momentOf = (value: number) => (value > last - HOUR ? null : value);
  const says = (value: number) => (momentOf(value) === null ? 'now' : sayTime(value, timeZone));

  const weeks = $derived(
    weeksOf(term, term.holidays).map(({ number, monday }) => {
      const begins = Date.parse(monday);
      const [left, right] = [place(begins), place(begins + 7 * DAY)];
      return { number, left, middle: (left + right) / 2 };
    }),
  );
  const today = $derived(
    new Intl.DateTimeFormat(LANGUAGE, { timeZone, weekday: 'short' }).format(now),
  );
  /** So much of the line a name needs to be worth reading, in percent. */
  const ROOM = 5;
  /** A name ends before the next due time; where there is no room it is left out. */
  const labels = $derived.by(() => {
    const inOrder = [...due].sort((a, b) => a.at - b.at);
    return inOrder.map((one, index) => {
      const next = inOrder[index + 1];
      const left = place(one.at);
      const right = next ? place(next.at) : 100;
      return { ...one, left, right, shown: right - left >= ROOM };
    });
  });
  /** What is due has the place; a holiday under it keeps its shade. */
  const isCovered = (from: number, to: number) =>
    labels.some(({ shown, left, right }) => shown && left < to && right > from);
</script>

<section
  class="flex items-center gap-5 border-b border-rule bg-sheet px-4 py-1 max-md:hidden"
  aria-label="Term line"
>
  <p class="w-28 shrink-0 text-sm leading-tight text-ink2">
    {term.name}<br /><strong class="text-ink"
      >{#if momentOf(lamp) === null}now · {today} {sayClock(now, timeZone)}{:else}{when(
          lamp,
          now,
          timeZone,
        )}{/if}</strong
    >
  </p>
  <div class="relative h-10 flex-1">
    <div
      class="absolute inset-0"
      role="img"
      aria-label="{term.name}, {weeks.length} weeks; due: {due.map((one) => one.title).join(', ') ||
        'nothing yet'}"
    >
      {#each term.holidays as holiday, index (index)}
        {@const [from, to] = [dayPlace(holiday.starts), dayPlace(holiday.ends) + 1]}
        <span
          class="absolute top-0 h-6 overflow-hidden bg-rule/60 text-center text-[11px] text-ink2"
          style:left="{from}%"
          style:width="{to - from}%"
          title={holiday.name}>{isCovered(from, to) ? '' : holiday.name}</span
        >
      {/each}
      <span class="absolute inset-x-0 top-6 border-t-2 border-ink2"></span>
      {#each weeks as week (week.number)}
        <span class="absolute top-6 h-1.5 border-l border-ink2" style:left="{week.left}%"></span>
        <span
          class="absolute top-[27px] -translate-x-1/2 text-[11px] whitespace-nowrap text-ink2"
          style:left="{week.middle}%">wk {week.number}</span
        >
      {/each}
      {#each labels as label (label.id)}
        <span class="absolute top-1.5 h-5 border-l-2 border-spruce" style:left="{label.left}%"
        ></span>
        {#if label.shown}
          <span
            class="absolute top-0 truncate px-1.5 text-xs"
            style:left="{label.left}%"
            style:max-width="{label.right - label.left}%">{label.title}</span
          >
        {/if}
      {/each}
    </div>
    {#if last > from}
      <Slider
        class="absolute inset-x-0 top-[13px]"
        min={from}
        max={to}
        step={HOUR}
        value={[lamp]}
        onValueChange={({ value: [value = last] }) => (moved = Math.min(value, last))}
        onValueChangeEnd={({ value: [value = last] }) => {
          moved = null;
          look(momentOf(value));
        }}
        getAriaValueText={({ value }) => says(value)}
        aria-label={['The board as it stood']}
      >
        <Slider.Control class="relative flex h-6 cursor-pointer items-center">
          <Slider.Track class="h-full flex-1" />
          <Slider.Thumb
            index={0}
            class="size-4 rounded-full border-2 border-sheet bg-lamp focus-visible:outline-2 focus-visible:outline-offset-1"
            title="Move it back to see the board as it stood"><Slider.HiddenInput /></Slider.Thumb
          >
        </Slider.Control>
      </Slider>
    {/if}
  </div>
</section>
