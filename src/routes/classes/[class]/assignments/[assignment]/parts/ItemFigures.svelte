<script lang="ts">
  import type { PartStands } from '$core/board/part-stands';
  import { itemFigures, sayDiscrimination } from '$core/marking/item-figures';

  interface Props {
    parts: readonly { id: string; number: number; label: string }[];
    rows: readonly { stands: Record<string, PartStands> }[];
  }
  let { parts, rows }: Props = $props();

  const SCORES: Partial<Record<PartStands, number>> = { right: 1, wrong: 0 };
  const figures = $derived(
    itemFigures(
      rows.map(({ stands }) => parts.map(({ id }) => SCORES[stands[id] ?? 'blank'] ?? null)),
    ),
  );
  const shown = $derived(
    parts.flatMap((part, index) => {
      const one = figures[index];
      return one ? [{ ...part, one }] : [];
    }),
  );
</script>

{#if shown.length > 0}
  <section class="mt-5 max-w-3xl" aria-label="How the parts did">
    <h2 class="font-bold">How the parts did</h2>
    <table class="mt-2 w-full text-sm">
      <thead>
        <tr class="border-b border-rule text-left text-ink2">
          <th scope="col" class="py-1 pr-4 font-normal">Part</th>
          <th scope="col" class="py-1 pr-4 text-right font-normal">right, of those answered</th>
          <th scope="col" class="py-1 font-normal">against the rest of the page</th>
        </tr>
      </thead>
      <tbody>
        {#each shown as { id, number, label, one } (id)}
          <tr class="border-b border-rule">
            <th scope="row" class="py-1 pr-4 text-left font-normal"
              ><strong>{number}</strong> {label}</th
            >
            <td class="py-1 pr-4 text-right whitespace-nowrap"
              >{Math.round(one.facility * 100)} % of {one.of}</td
            >
            <td class="py-1"
              >{sayDiscrimination(one)}{one.discrimination === null
                ? ''
                : ` (${one.discrimination.toFixed(2).replace('-', '−')})`}</td
            >
          </tr>
        {/each}
      </tbody>
    </table>
    <details class="mt-2 text-sm text-ink2">
      <summary class="cursor-pointer">What these numbers say</summary>
      <p class="mt-1">
        The first is the share that is right: testing calls it the facility of an item. The second
        is the correlation of this part with the rest of the page, from −1 to 1: its discrimination.
        Near 1, those who did well elsewhere did well here; near 0, it made no difference; below 0,
        they did worse, and the question or its key deserves a look. With fewer than ten copies it
        is not given.
      </p>
    </details>
  </section>
{/if}
