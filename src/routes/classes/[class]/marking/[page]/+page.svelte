<script lang="ts">
  import { untrack } from 'svelte';
  import Copy from './Copy.svelte';
  import { CopyLine } from './copy-line.svelte';

  let { data, params } = $props();

  /** Of one page of one assignment; from copy to copy it stays as it was formed. */
  const of = $derived(`${data.assignment.id} ${data.copy.for}`);
  const line = $derived.by(() => {
    void of;
    return untrack(
      () => new CopyLine(data.line, data.place ?? CopyLine.FIRST, data.person?.id ?? ''),
    );
  });
  $effect(() => line.take(data.line));
</script>

<!-- Another student's copy is another page, another history, another margin: nothing is carried over. -->
{#key data.page}<Copy {data} klass={params.class} {line} />{/key}
