<script lang="ts">
  /** What will happen, before it happens, with what may surprise. */
  let { sentences, oddities }: { sentences: readonly string[]; oddities: readonly string[] } =
    $props();

  const inOne = $derived(sentences.join(' '));
  /** The number that matters and what is counted: "71 copies". */
  const head = $derived(/^\d+ \p{L}+/u.exec(inOne)?.[0] ?? '');
</script>

<div class="notice" aria-live="polite">
  <p><strong>{head}</strong>{inOne.slice(head.length)}</p>
  {#each oddities as oddity (oddity)}<p class="mt-1 font-bold">{oddity}</p>{/each}
</div>
