<script lang="ts">
  import type { Attached } from '$core/attached/attached';
  import { counted } from '$core/lists/counted';
  import AttachedList from './AttachedList.svelte';

  interface Props {
    page: string;
    earlier: readonly Attached[];
    now: number;
    timeZone: string;
  }
  /** What was handed in with a copy earlier, and was removed or replaced since. */
  let { page, earlier, now, timeZone }: Props = $props();
</script>

<details class="mt-2">
  <summary class="cursor-pointer text-sm text-ink2"
    >{counted(earlier.length, 'thing')} handed in earlier</summary
  >
  <div class="mt-2">
    <AttachedList {page} attached={earlier} {now} {timeZone} label="Earlier" />
  </div>
</details>
