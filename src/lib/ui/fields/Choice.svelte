<script lang="ts" generics="T extends string">
  import { SegmentedControl } from '@skeletonlabs/skeleton-svelte';

  interface Props {
    /** What a screen reader hears of the group. */
    label: string;
    /** Few enough to stand side by side: each with what it says. */
    options: readonly (readonly [value: T, says: string])[];
    value: T;
  }
  let { label, options, value = $bindable() }: Props = $props();
</script>

<SegmentedControl
  {value}
  onValueChange={(change) => {
    const chosen = options.find(([one]) => one === change.value);
    if (chosen) value = chosen[0];
  }}
>
  <SegmentedControl.Label class="sr-only">{label}</SegmentedControl.Label>
  <SegmentedControl.Control
    class="relative inline-flex overflow-hidden rounded-lg border border-rule bg-sheet"
  >
    <SegmentedControl.Indicator
      class="absolute top-(--top) left-(--left) h-(--height) w-(--width) bg-ink"
    />
    {#each options as [one, says] (one)}
      <SegmentedControl.Item
        value={one}
        class="relative cursor-pointer px-3.5 py-1.5 text-sm text-ink data-[state=checked]:text-sheet has-focus-visible:outline-2 has-focus-visible:-outline-offset-2"
      >
        <SegmentedControl.ItemText>{says}</SegmentedControl.ItemText>
        <SegmentedControl.ItemHiddenInput />
      </SegmentedControl.Item>
    {/each}
  </SegmentedControl.Control>
</SegmentedControl>
