<script lang="ts">
  import type { Checked, CheckedPart, Overruled } from '$core/marking/check-copy';
  import { isRight, overruledIn } from '$core/marking/sum-checked';
  import CheckedSheet from '$ui/marking/CheckedSheet.svelte';
  import { send } from '$ui/send';

  /** A copy that marks itself: what its answers came to, and what a teacher makes of it. */
  interface Props {
    page: string;
    /** What its score says; null where it was not checked, or was scored otherwise since. */
    checked: Checked | null;
    /** The last score that is seen here. */
    score: string | null;
    changed: () => Promise<void>;
  }
  let { page, checked, score, changed }: Props = $props();
  let sending = $state(false);
  let sentence = $state('');

  async function check(overruled: Overruled) {
    if (sending) return;
    sending = true;
    sentence = '';
    try {
      await send(`/pages/${page}/marking`, { move: 'score', given: { overruled }, after: score });
    } catch (error) {
      sentence = error instanceof Error ? error.message : '';
    }
    await changed().catch(() => undefined);
    sending = false;
  }
  /** What a key says already needs nobody to decide it. */
  function overrule(part: CheckedPart) {
    const decided = isRight(part) ? 'wrong' : 'right';
    const { [part.id]: _before, ...others } = overruledIn(checked);
    const byKey = part.verdict === 'right' ? 'right' : 'wrong';
    void check(decided === byKey ? others : { ...others, [part.id]: decided });
  }
</script>

<div class="mb-4">
  <h2 class="font-bold">By the answer keys</h2>
  {#if checked}
    <CheckedSheet {checked} {overrule} />
  {:else}
    <p class="mt-1 text-sm text-ink2">
      {score === null
        ? 'It is checked once it is handed in.'
        : 'It was scored by hand; the answer keys do not count.'}
    </p>
  {/if}
  <button
    type="button"
    class="act act-small mt-2"
    disabled={sending}
    onclick={() => check(overruledIn(checked))}>{checked ? 'Check again' : 'Check now'}</button
  >
  {#if sentence}<p class="trouble mt-2" role="alert">{sentence}</p>{/if}
</div>
