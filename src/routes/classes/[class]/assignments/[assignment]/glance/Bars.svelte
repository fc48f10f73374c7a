<script lang="ts">
  import { counted } from '$core/lists/counted';

  interface Props {
    /** What a screen reader hears of all of them. */
    label: string;
    bars: readonly { label: string; copies: readonly string[] }[];
    /** Which bar is chosen, by its label. */
    chosen: string | null;
    choose: (label: string | null) => void;
    /** Of the tallest bar, in pixels. */
    height?: number;
  }
  let { label, bars, chosen, choose, height = 120 }: Props = $props();
  const most = $derived(Math.max(1, ...bars.map(({ copies }) => copies.length)));
</script>

<div class="flex items-end gap-1 overflow-x-auto" role="group" aria-label={label}>
  {#each bars as bar (bar.label)}
    {@const count = bar.copies.length}
    <button
      type="button"
      class="flex min-w-9 flex-1 flex-col items-center gap-0.5 rounded-md text-xs text-ink2 disabled:cursor-default"
      aria-label="{bar.label}: {counted(count, 'copy', 'copies')}"
      aria-pressed={bar.label === chosen}
      disabled={count === 0}
      onclick={() => choose(bar.label === chosen ? null : bar.label)}
    >
      <span class="text-ink" aria-hidden="true">{count || ''}</span>
      <span
        class={['w-full rounded-t-sm', bar.label === chosen ? 'bg-lamp' : 'bg-spruce']}
        style:height="{Math.max(2, (count / most) * height)}px"
        aria-hidden="true"
      ></span>
      <span class="border-t border-rule pt-0.5 whitespace-nowrap" aria-hidden="true"
        >{bar.label.replace(' to under ', '–').replace(' to ', '–')}</span
      >
    </button>
  {/each}
</div>
