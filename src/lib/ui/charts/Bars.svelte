<script lang="ts">
  interface Props {
    /** What a screen reader hears of it. */
    says: string;
    labels: readonly string[];
    /** From the bottom up where there are several; `color` is one of the theme's: "--spruce". */
    series: readonly { label: string; color: string; values: readonly number[] }[];
    /** What stands under the labels. */
    along?: string;
    /** Bars that touch, as what goes on in time. */
    dense?: boolean;
  }
  let { says, labels, series, along, dense = false }: Props = $props();

  const drawn = $derived(JSON.stringify([labels, series]));

  /** The chart comes when it is asked for, and is drawn anew with the numbers or the colours. */
  function draw(canvas: HTMLCanvasElement) {
    let stopped = false;
    const style = getComputedStyle(canvas);
    const color = (name: string) => style.getPropertyValue(name).trim();
    const made = import('chart.js').then(
      ({ Chart, BarController, BarElement, CategoryScale, LinearScale }) => {
        if (stopped) return null;
        Chart.register(BarController, BarElement, CategoryScale, LinearScale);
        Chart.defaults.font.family = style.fontFamily;
        return new Chart(canvas, {
          type: 'bar',
          data: {
            labels: [...labels],
            datasets: series.map((one) => ({
              label: one.label,
              data: [...one.values],
              backgroundColor: color(one.color),
              borderRadius: dense ? 0 : 3,
              ...(dense ? { barPercentage: 1, categoryPercentage: 1 } : {}),
            })),
          },
          options: {
            animation: false,
            maintainAspectRatio: false,
            events: [],
            scales: {
              x: {
                stacked: true,
                grid: { display: false },
                ticks: { color: color('--ink2'), maxRotation: 0, autoSkipPadding: 16 },
                title: { display: along !== undefined, text: along, color: color('--ink2') },
              },
              y: {
                stacked: true,
                beginAtZero: true,
                grid: { color: color('--rule') },
                ticks: { precision: 0, color: color('--ink2') },
              },
            },
          },
        });
      },
    );
    return () => {
      stopped = true;
      void made.then((chart) => chart?.destroy());
    };
  }
</script>

{#if series.length > 1}
  <ul class="mt-1 flex flex-wrap gap-x-4 text-sm text-ink2">
    {#each series as one (one.label)}
      <li class="flex items-center gap-1.5">
        <span class="h-3 w-3 rounded-xs" style:background="var({one.color})"></span>{one.label}
      </li>
    {/each}
  </ul>
{/if}
{#key drawn}
  <div class="relative mt-2 h-44 overflow-hidden" role="img" aria-label={says}>
    <canvas {@attach draw}></canvas>
  </div>
{/key}
