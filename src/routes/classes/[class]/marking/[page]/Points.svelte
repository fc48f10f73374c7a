<script lang="ts">
  import { beforeNavigate } from '$app/navigation';
  import type { CopyState } from '$core/copy/state';
  import { isLaterScore } from '$core/marking/kept-score';
  import { morePointsThanAsked, readPoints, writePoints } from '$core/marking/points';
  import { send } from '$ui/send';

  interface Props {
    page: string;
    copy: { points: string | null; score: string | null };
    /** What the assignment has; null for no points. */
    most: string | null;
    stands: CopyState;
    changed: () => Promise<void>;
    /** Where the assignment is changed, for who may. */
    change: string | null;
  }
  let { page, copy, most, stands, changed, change }: Props = $props();

  const saved = $derived(copy.points === null ? '' : writePoints(copy.points));
  /** What stands in the field, and the score that was seen when it was begun; null while it is as saved. */
  let typed = $state.raw<{ text: string; after: string | null } | null>(null);
  const text = $derived(typed?.text ?? saved);
  const after = $derived(typed ? typed.after : copy.score);
  const isBehind = $derived(isLaterScore(copy.score, after) && text !== saved);
  let sentence = $state('');
  let sending = $state(false);
  const read = $derived(text.trim() === '' ? null : readPoints(text));
  const over = $derived(read === null ? null : morePointsThanAsked(read, most));

  async function give(move: 'score' | 'hand back') {
    if (text.trim() !== '' && read === null)
      return void (sentence = 'Points are a number such as 6, 6½ or 6.5.');
    if (move === 'score' && text === saved)
      return void (sentence = read === null ? 'There are no points to save yet.' : '');
    sending = true;
    try {
      const sent = text;
      const given = text === saved ? null : { points: read };
      const now = await send<{ score: string | null }>(`/pages/${page}/marking`, {
        move,
        given,
        after,
      });
      sentence = '';
      // What is typed meanwhile is still to be saved, after this.
      typed = { text, after: now.score };
      await changed();
      if (text === sent) typed = null;
    } catch (error) {
      sentence = `${error instanceof Error ? error.message : ''} What you typed is still here.`;
      await changed().catch(() => undefined);
    } finally {
      sending = false;
    }
  }
  // Whoever goes on to the next copy has scored this one.
  beforeNavigate(() => {
    if (text !== saved && !sending && !isBehind) void give('score');
  });
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
        bind:value={() => text, (next) => (typed = { text: next, after })}
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
  {#if isBehind}<p class="notice mt-2" role="alert">
      {copy.points === null ? 'The points were removed' : `It was given ${saved} points`} meanwhile.
      <button type="button" class="act act-small" onclick={() => (typed = null)}>Take theirs</button
      >
      <button
        type="button"
        class="act act-small"
        onclick={() => {
          typed = { text, after: copy.score };
          void give('score');
        }}>Save mine over it</button
      >
    </p>{/if}
  {#if over}<p class="notice mt-2">{over}</p>{/if}
</form>
