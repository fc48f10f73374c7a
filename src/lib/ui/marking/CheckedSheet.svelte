<script lang="ts">
  import type { Checked, CheckedPart } from '$core/marking/check-copy';
  import { isRight, rightOf } from '$core/marking/sum-checked';

  interface Props {
    checked: Checked;
    /** Decides that a part counts otherwise than its key says; left out for who only reads. */
    overrule?: (part: CheckedPart) => void;
  }
  let { checked, overrule }: Props = $props();
  const sum = $derived(rightOf(checked));
  const WHY: Partial<Record<CheckedPart['verdict'], string>> = {
    'no answer': 'no answer',
    unreadable: 'it cannot be read as a number',
    'wrong unit': 'it is in another unit',
  };
</script>

<section class="mt-4" aria-label="What the answers came to">
  <p><strong>{sum.right} of {sum.of}</strong> right</p>
  <ul class="mt-1">
    {#each checked.parts as part (part.id)}
      {@const counts = isRight(part)}
      <li class="grid grid-cols-[auto_1fr_auto] items-baseline gap-x-2 border-b border-rule py-1.5">
        <span class={counts ? 'text-spruce' : 'text-rust'} aria-hidden="true"
          >{counts ? '✓' : '✗'}</span
        >
        <span class="min-w-0">
          <span class="text-sm text-ink2">{part.number}. {part.label}</span>
          {#if part.answer}<span class="block break-words">{part.answer}</span>{/if}
          <span class="block text-sm text-ink2">
            <span class="sr-only">{counts ? 'Right' : 'Not right'}</span>
            {part.overruled
              ? `counted as ${part.overruled} by a teacher`
              : (WHY[part.verdict] ?? '')}
          </span>
        </span>
        {#if overrule}<button
            type="button"
            class="act act-small"
            onclick={() => overrule(part)}
            aria-label="Count part {part.number} as {counts ? 'wrong' : 'right'}"
            >Count as {counts ? 'wrong' : 'right'}</button
          >{/if}
      </li>
    {/each}
  </ul>
</section>
