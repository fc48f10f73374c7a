<script lang="ts">
  import { Switch } from '@skeletonlabs/skeleton-svelte';

  let { says, on = $bindable() }: { says: string; on: boolean } = $props();
</script>

<Switch
  class="flex cursor-pointer items-center gap-2.5"
  checked={on}
  onCheckedChange={({ checked }) => (on = checked)}
>
  <Switch.Control
    class="block h-6 w-10 shrink-0 rounded-full border border-quiet bg-sheet p-0.5 data-[focus-visible]:outline-2 data-[focus-visible]:outline-offset-2 data-[state=checked]:border-spruce data-[state=checked]:bg-spruce"
  >
    <Switch.Thumb
      class="block size-4.5 rounded-full bg-quiet transition-transform data-[state=checked]:translate-x-4 data-[state=checked]:bg-sheet"
    />
  </Switch.Control>
  <Switch.Label>{says}</Switch.Label>
  <Switch.HiddenInput />
</Switch>
