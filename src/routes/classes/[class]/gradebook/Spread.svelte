<script lang="ts">
  import { saySpread, type Spread } from '$core/grades/spread';

  interface Props {
    spread: Spread;
    /** What it is the spread of. */
    title: string;
  }
  let { spread, title }: Props = $props();
  const LABELS = ['0', '10', '20', '30', '40', '50', '60', '70', '80', '90'];

  /** The chart comes when it is asked for, and is drawn anew with the numbers or the colours. */
  function draw(canvas: HTMLCanvasElement) {
    let stopped = false;
    const { tenths } = spread;
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
            labels: LABELS,
            datasets: [{ data: tenths, backgroundColor: color('--spruce'), borderRadius: 3 }],
          },
          options: {
            animation: false,
            events: [],
            scales: {
              x: {
                grid: { display: false },
                ticks: { color: color('--ink2'), maxRotation: 0 },
                title: { display: true, text: 'from … percent on', color: color('--ink2') },
              },
              y: {
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

<p class="mt-2 text-sm">{saySpread(spread)}</p>
{#if spread.count > 0}
  {#key spread.tenths.join()}
    <div
      class="relative mt-2 h-44"
      role="img"
      aria-label="How many have how much of {title}, in tenths: {spread.tenths.join(', ')}"
    >
      <canvas {@attach draw}></canvas>
    </div>
  {/key}
{/if}
