<script lang="ts">
  import { sayKappa } from '$core/marking/agreement';
  import type { PairAgreement } from '$server/copy/view-markers';

  let { pair }: { pair: PairAgreement } = $props();

  const share = (part: number) => `${Math.round(part * 100)} %`;
  const figure = (kappa: number | null) => (kappa === null ? '–' : kappa.toFixed(2));
</script>

<table class="mt-2 w-full">
  <caption class="pb-1 text-left font-bold">{pair.by[0]} and {pair.by[1]}</caption>
  <thead>
    <tr class="text-left text-sm text-ink2">
      <th class="font-normal">On</th>
      <th class="px-3 text-right font-normal">Copies</th>
      <th class="px-3 text-right font-normal">Equal</th>
      <th class="px-3 text-right font-normal">Within ½</th>
      <th class="px-3 text-right font-normal">Kappa</th>
      <th class="px-3 text-right font-normal">Weighted kappa</th>
      <th class="pl-3 font-normal">That is</th>
    </tr>
  </thead>
  <tbody>
    {#each pair.lines as { label, agreement } (label)}
      <tr class="border-t border-rule">
        <th class="max-w-72 truncate py-1.5 text-left font-normal">{label}</th>
        <td class="px-3 text-right">{agreement.of}</td>
        <td class="px-3 text-right">{share(agreement.equal)}</td>
        <td class="px-3 text-right">{share(agreement.near)}</td>
        <td class="px-3 text-right">{figure(agreement.kappa)}</td>
        <td class="px-3 text-right">{figure(agreement.weighted)}</td>
        <td class="pl-3 text-sm">{sayKappa(agreement.weighted, agreement.of)}</td>
      </tr>
    {/each}
  </tbody>
</table>
<p class="mt-2 max-w-3xl text-sm text-ink2">
  Within ½: equal, or no more than half a step or half a point apart. Kappa is how much more often
  both gave the same than chance would have it: 1 is always, 0 no more than chance. The weighted
  kappa counts a small difference as a small one; the words are about that.
</p>
