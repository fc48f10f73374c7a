<script lang="ts">
  import { Progress } from '@skeletonlabs/skeleton-svelte';

  interface Props {
    label: string;
    /** How many are done; left out where nobody knows. */
    done?: number;
    total?: number;
  }
  let { label, done, total = 1 }: Props = $props();
</script>

<Progress value={done ?? null} max={Math.max(1, total)}>
  <Progress.Track class="h-1.5 overflow-hidden rounded-full bg-rule" aria-label={label}>
    <Progress.Range
      class={['h-full rounded-full bg-spruce', done === undefined && 'w-1/3 animate-pulse']}
    />
  </Progress.Track>
</Progress>
