<script lang="ts">
  import { untrack } from 'svelte';
  import type { CopyState } from '$core/copy/state';
  import { morePointsThanAsked, readPoints, writePoints } from '$core/marking/points';

  import { send } from '$ui/send';

  interface Props {
    page: string;
    copy: { points: string | null };
    /** What the assignment has; null for no points. */
    most: string | null;
    stands: CopyState;
    changed: () => Promise<void>;
    /** Where the assignment is changed, for who may. */
    change: string | null;
  }
  let { page, copy, most, stands, changed, change }: Props = $props();

  let text = $state(untrack(() => (copy.points === null ? '' : writePoints(copy.points))));
  let sentence = $state('');
  let sending = $state(false);
  const read = $derived(text.trim() === '' ? null : readPoints(text));
  const over = $derived(read === null ? null : morePointsThanAsked(read, most));

  async function give(move: 'score' | 'hand back') {
    if (text.trim() !== '' && read === null)
      return void (sentence = 'Points are a number such as 6, 6½ or 6.5.');
    if (move === 'score' && read === null)
      return void (sentence = 'There are no points to save yet.');
    sending = true;
    try {
      await send(`/pages/${page}/marking`, { move, points: read });
      sentence = '';
      await changed();
    } catch (error) {
      sentence = `${error instanceof Error ? error.message : ''} What you typed is still here.`;
    } finally {
      sending = false;
    }
  }
</script>

<form
  onsubmit={(event) => {
    event.preventDefault();
    void give('hand back');
  }}
>
  <h2 class="font-bold">{most === null ? 'Hand back' : `Points of ${writePoints(most)}`}</h2>
  <div class="mt-2 flex items-center gap-2">
    {#if most !== null}
      <input
        class="field w-20 text-lg font-bold"
        inputmode="decimal"
        aria-label="Points"
        bind:value={text}
        placeholder="–"
      />
      <button type="button" class="act" disabled={sending} onclick={() => give('score')}
        >Save</button
      >
    {/if}
    <button class="act act-main" disabled={sending}
      >{stands === 'handed back' ? 'Hand back again' : 'Hand back'}</button
    >
  </div>
  {#if most === null}<p class="mt-2 text-sm text-ink2">
      This assignment counts no points.
      {#if change}<a href={change}>Give it points</a>{/if}
    </p>{/if}
  {#if sentence}<p class="trouble mt-2" role="alert">{sentence}</p>{/if}
  {#if over}<p class="notice mt-2">{over}</p>{/if}
</form>
