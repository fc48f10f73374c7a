<script lang="ts">
  import { when } from '$core/calendar/say-time';
  import type { Loss } from '$core/headcount/level';
  import type { PageHistory } from '$core/history/page-history';
  import { fetchJson } from '$ui/send';

  interface Props {
    copy: string;
    loss: Loss;
    timeZone: string;
  }
  /** The sittings of a copy that lost its work, with the one in which it went. */
  let { copy, loss, timeZone }: Props = $props();

  /** So many sittings fit, the latest. */
  const MOST = 12;
  const now = Date.now();
  let sittings: PageHistory['line'] = $state.raw([]);
  $effect(() => {
    let isWanted = true;
    fetchJson<PageHistory>(`/pages/${copy}/history`).then(
      ({ line }) => isWanted && (sittings = line.slice(-MOST)),
      () => undefined,
    );
    return () => (isWanted = false);
  });
  /** Heights go by the root, so that a long sitting does not flatten all else. In pixels. */
  const TALLEST = 26;
  const most = $derived(
    Math.max(
      1,
      ...sittings.map(({ added, strokes, removed }) => Math.max(added + strokes, removed)),
    ),
  );
  const tall = (amount: number) =>
    `${amount === 0 ? 0 : Math.max(3, TALLEST * Math.sqrt(amount / most))}px`;
  const isFall = ({ first, last }: { first: number; last: number }) =>
    first <= loss.version + 1 && loss.version + 1 <= last;
</script>

{#if sittings.length > 0}
  <div class="mt-3 flex gap-1" role="img" aria-label="The sittings in which it was written">
    {#each sittings as sitting (sitting.first)}
      {@const falls = isFall(sitting)}
      <div class="w-14 text-center">
        <div class="relative flex h-8 items-end justify-center gap-0.5 border-b border-rule">
          <span class="w-2.5 bg-ice" style:height={tall(sitting.added + sitting.strokes)}></span>
          <span
            class={['w-2.5', falls ? 'bg-rust' : 'bg-quiet']}
            style:height={tall(sitting.removed)}
          ></span>
          {#if falls}<span
              class="absolute -bottom-1.5 size-3 rounded-full border-2 border-sheet bg-lamp"
            ></span>{/if}
        </div>
        <p class={['mt-1.5 text-xs leading-tight', falls ? 'font-bold' : 'text-ink2']}>
          {when(sitting.from, now, timeZone)}
        </p>
      </div>
    {/each}
  </div>
{/if}
