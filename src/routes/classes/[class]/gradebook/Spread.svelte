<script lang="ts">
  import { saySpread, type Spread } from '$core/grades/spread';
  import Bars from '$ui/charts/Bars.svelte';

  interface Props {
    spread: Spread;
    /** What it is the spread of. */
    title: string;
  }
  let { spread, title }: Props = $props();
  const LABELS = ['0', '10', '20', '30', '40', '50', '60', '70', '80', '90'];
</script>

<p class="mt-2 text-sm">{saySpread(spread)}</p>
{#if spread.count > 0}
  <Bars
    labels={LABELS}
    series={[{ label: 'students', color: '--spruce', values: spread.tenths }]}
    along="from … percent on"
    says="How many have how much of {title}, in tenths: {spread.tenths.join(', ')}"
  />
{/if}
