<script lang="ts">
  import { colorOf } from '$core/formats/icalendar';
  import { grouped } from '$core/lists/grouped';
  import { enhance, refreshOnNews } from '$ui/refresh';
  import { away, sayClock, sayDay } from '$core/calendar/say-time';

  let { data } = $props();
  refreshOnNews(
    'uncia:work',
    (heard) => heard === 'resync' || heard.some(({ kind }) => kind === 'class'),
  );

  const days = $derived([...grouped(data.times, ({ due }) => sayDay(due, data.timeZone))]);
  const today = $derived(sayDay(data.now, data.timeZone));
  let copied = $state(false);
</script>

<div class="flex min-h-0 flex-1 max-lg:flex-col max-lg:overflow-auto">
  <main class="min-w-0 flex-1 overflow-auto px-6 py-5 max-lg:overflow-visible">
    <h1 class="text-2xl font-bold">What is due</h1>
    {#each days as [day, times] (day)}
      <section
        class="mt-4 grid max-w-3xl grid-cols-[minmax(0,1fr)] gap-x-6 sm:grid-cols-[11rem_minmax(0,1fr)]"
        aria-label={day}
      >
        <h2 class={['py-2', day === today ? 'font-bold' : 'text-ink2']}>
          {day}{day === today ? ', today' : ''}
        </h2>
        <ul class="border-t border-rule">
          {#each times as time (time.uid)}
            <li class="border-b border-rule">
              <a
                href={time.to}
                class="flex items-center gap-3 py-2 text-ink no-underline hover:text-spruce"
              >
                <span class="w-12 text-sm text-ink2">{sayClock(time.due, data.timeZone)}</span>
                <span
                  class="h-5 w-1 shrink-0 rounded-full"
                  style:background={colorOf(time.classId)}
                  aria-hidden="true"
                ></span>
                <span class="min-w-0 flex-1"
                  ><strong class="block truncate">{time.title}</strong>
                  <span class="block text-sm text-ink2">{time.class}</span></span
                >
                <span class={['text-sm', time.due < data.now ? 'text-ink2' : '']}
                  >{away(time.due, data.now)}</span
                >
              </a>
            </li>
          {/each}
        </ul>
      </section>
    {:else}
      <p class="notice mt-4 max-w-2xl">
        Nothing is due. What is handed out with a due time will stand here.
      </p>
    {/each}
  </main>
  <aside
    class="w-84 shrink-0 overflow-auto border-l border-rule bg-sheet px-5 py-5 max-lg:w-full max-lg:border-t max-lg:border-l-0"
    aria-labelledby="elsewhere"
  >
    <h2 id="elsewhere" class="font-bold">In your own calendar</h2>
    <p class="mt-1 text-sm text-ink2">
      Give this address to a calendar program, and it follows by itself: what is new, what changes
      and what is withdrawn. Whoever has the address can read it, so keep it to yourself.
    </p>
    <input
      class="field mt-3 text-sm"
      readonly
      value={data.feed}
      aria-label="Address of your calendar"
    />
    <div class="mt-2 flex flex-wrap gap-2">
      <button
        class="act act-small"
        onclick={async () => {
          copied = await navigator.clipboard.writeText(data.feed).then(
            () => true,
            () => false,
          );
        }}>{copied ? 'Copied' : 'Copy'}</button
      >
      <form
        method="POST"
        action="?/renew"
        use:enhance={() =>
          ({ update }) => ((copied = false), update())}
      >
        <button class="act act-small">New address</button>
      </form>
    </div>
    <p class="mt-2 text-sm text-ink2">With a new address, the old one stops working.</p>
  </aside>
</div>
