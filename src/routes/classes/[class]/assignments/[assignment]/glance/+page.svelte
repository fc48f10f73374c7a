<script lang="ts">
  import { counted } from '$core/lists/counted';
  import { sayDiscrimination } from '$core/marking/item-figures';
  import { writePoints } from '$core/marking/points';
  import { barsOf, spreadOf } from '$core/marking/spread';
  import { refreshOnNews } from '$ui/refresh';
  import Bars from './Bars.svelte';

  let { data } = $props();
  refreshOnNews(
    'uncia:glance',
    (heard) =>
      heard === 'resync' ||
      heard.some((one) => one.kind === 'copy' && one.row.assignment === data.assignment),
  );

  const withPoints = $derived(
    data.copies.flatMap(({ id, points }) => (points === null ? [] : [{ id, points }])),
  );
  const spread = $derived(spreadOf(withPoints.map(({ points }) => Number(points))));
  const points = $derived(
    barsOf(withPoints, (one) => one.points, data.most).map((bar) => ({
      label: bar.label,
      copies: bar.in.map(({ id }) => id),
    })),
  );
  const say = (value: number) => value.toFixed(1).replace(/\.0$/, '');
  const nameOf = $derived(new Map(data.copies.map(({ id, name }) => [id, name])));
  /** The bar whose copies are shown: of the points, a criterion or a part, and which. */
  let chosen: { of: string; label: string } | null = $state.raw(null);
  const choose = (of: string) => (label: string | null) =>
    (chosen = label === null ? null : { of, label });
  const chosenIn = (of: string) => (chosen?.of === of ? chosen.label : null);
  const barsOfItem = (item: (typeof data.criteria)[number]) =>
    item.levels.map((level) => ({ label: writePoints(level.points), copies: level.copies }));
</script>

{#snippet behind(of: string, bars: readonly { label: string; copies: readonly string[] }[])}
  {@const bar = bars.find(({ label }) => label === chosenIn(of))}
  {#if bar}<ul
      class="mt-2 flex flex-wrap gap-x-4 gap-y-1 text-sm"
      aria-label="Copies of {bar.label}"
    >
      {#each bar.copies as copy (copy)}
        <li><a href="/classes/{data.klass.id}/marking/{copy}">{nameOf.get(copy)}</a></li>
      {/each}
    </ul>{/if}
{/snippet}

<main class="mx-auto min-h-0 w-full max-w-5xl flex-1 overflow-auto px-6 py-5">
  <h1 class="text-2xl font-bold">{data.title}: {data.klass.name} at a glance</h1>
  {#if spread}
    <p class="mt-2 max-w-3xl">
      {counted(spread.of, 'copy has', 'copies have')} points{data.most
        ? `, of ${writePoints(data.most)}`
        : ''}: from {say(spread.least)} to {say(spread.most)}. Half of them lie between {say(
        spread.quartiles[0],
      )} and {say(spread.quartiles[1])}; the median is <strong>{say(spread.median)}</strong>, the
      mean {say(spread.mean)}{spread.deviation === null
        ? ''
        : `, the standard deviation ${say(spread.deviation)}`}.
    </p>
    <div class="mt-4 max-w-3xl">
      <Bars label="Points" bars={points} chosen={chosenIn('points')} choose={choose('points')} />
    </div>
    {@render behind('points', points)}
  {:else}<p class="mt-2 text-ink2">
      No copy of {data.klass.name} has points yet. They are shown here as you mark.
    </p>{/if}
  {#each [{ title: 'By criterion', items: data.criteria }, { title: 'By part', items: data.parts }] as { title, items } (title)}
    {#if items.length > 0}
      <h2 class="mt-7 text-lg font-bold">{title}</h2>
      <ul class="mt-1 grid gap-x-8 md:grid-cols-2">
        {#each items as item (item.id)}
          {@const bars = barsOfItem(item)}
          <li class="border-b border-rule py-3">
            <h3 class="mb-1 font-bold">{item.label}</h3>
            <Bars
              label={item.label}
              {bars}
              height={48}
              chosen={chosenIn(item.id)}
              choose={choose(item.id)}
            />
            {#if item.figures}<p class="mt-1 text-sm text-ink2">
                Facility {Math.round(item.figures.facility * 100)} %{item.figures.discrimination ===
                null
                  ? ''
                  : `, discrimination ${item.figures.discrimination.toFixed(2)}`}: {sayDiscrimination(
                  item.figures,
                )}.
              </p>{/if}
            {@render behind(item.id, bars)}
          </li>
        {/each}
      </ul>
    {/if}
  {/each}
</main>
