<script lang="ts">
  /** What will happen, before it happens, with what may surprise. */
  let { sentences, oddities }: { sentences: readonly string[]; oddities: readonly string[] } =
    $props();

  const head = $derived((sentences[0] ?? '').split(' will '));
</script>

<div class="notice" aria-live="polite">
  <p>
    <strong>{head[0]}</strong>{head.length > 1 ? ` will ${head.slice(1).join(' will ')}` : ''}
    {sentences.slice(1).join(' ')}
  </p>
  {#each oddities as oddity (oddity)}<p class="mt-1 font-bold">{oddity}</p>{/each}
</div>
