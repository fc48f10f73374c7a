<script lang="ts">
  import { beforeNavigate } from '$app/navigation';
  import type { CopyState } from '$core/copy/state';
  import { morePointsThanAsked, readPoints, writePoints } from '$core/marking/points';
  import { isWriting } from '$ui/is-writing';
  import { send } from '$ui/send';

  interface Props {
    page: string;
    copy: { points: string | null; score: string | null };
    /** Why they differ from what the copy had before; null where it had nothing. */
    why: string | null;
    /** What the assignment has; null for no points. */
    most: string | null;
    stands: CopyState;
    /** How a score is sent; one of two who mark a copy apart does not hand it back. */
    move: 'score' | 'score apart';
    changed: () => Promise<void>;
    /** Where the assignment is changed, for who may. */
    change: string | null;
  }
  let { page, copy, why, most, stands, move, changed, change }: Props = $props();

  const saved = $derived(copy.points === null ? '' : writePoints(copy.points));
  /** What stands in the field, and the score that was seen when it was begun; null while it is as saved. */
  let typed = $state.raw<{ text: string; why: string; after: string | null } | null>(null);
  const text = $derived(typed?.text ?? saved);
  const reason = $derived(typed?.why ?? why ?? '');
  const isSaved = $derived(text === saved && reason === (why ?? ''));
  const after = $derived(typed ? typed.after : copy.score);
  const isBehind = $derived(after !== copy.score && !isSaved);
  let sentence = $state('');
  let sending = $state(false);
  const read = $derived(text.trim() === '' ? null : readPoints(text));
  const over = $derived(read === null ? null : morePointsThanAsked(read, most));

  async function give(how: 'score' | 'hand back') {
    if (text.trim() !== '' && read === null)
      return void (sentence = 'Points are a number such as 6, 6½ or 6.5.');
    if (how === 'score' && isSaved)
      return void (sentence = read === null ? 'There are no points to save yet.' : '');
    sending = true;
    try {
      const given = isSaved ? null : { points: read, why: reason };
      const now = await send<{ score: string | null }>(`/pages/${page}/marking`, {
        move: how === 'score' ? move : how,
        given,
        after,
      });
      sentence = '';
      typed = { text, why: reason, after: now.score };
      await changed();
      typed = null;
    } catch (error) {
      sentence = `${error instanceof Error ? error.message : ''} What you typed is still here.`;
      await changed().catch(() => undefined);
    } finally {
      sending = false;
    }
  }
  let field: HTMLInputElement | undefined = $state();
  function keys(event: KeyboardEvent) {
    if (isWriting(event) || event.key !== 'p' || event.ctrlKey || event.metaKey || event.altKey)
      return;
    event.preventDefault();
    field?.select();
  }
  // Whoever goes on to the next copy has scored this one.
  beforeNavigate(() => {
    if (!isSaved && !sending && !isBehind) void give('score');
  });
</script>

<svelte:window onkeydown={keys} />
<form
  onsubmit={(event) => {
    event.preventDefault();
    void give(move === 'score' ? 'hand back' : 'score');
  }}
>
  <h2 class="font-bold">
    {most === null
      ? move === 'score'
        ? 'Hand back'
        : 'No points'
      : `Points of ${writePoints(most)}`}
  </h2>
  <div class="mt-2 flex items-center gap-2">
    {#if most !== null}
      <input
        class="field w-20 text-lg font-bold"
        inputmode="decimal"
        aria-label="Points"
        bind:this={field}
        bind:value={() => text, (next) => (typed = { text: next, why: reason, after })}
        placeholder="–"
      />
      <button type="button" class="act" disabled={sending} onclick={() => give('score')}
        >Save</button
      >
    {/if}
    {#if move === 'score'}<button class="act act-main" disabled={sending}
        >{stands === 'handed back' ? 'Hand back again' : 'Hand back'}</button
      >{/if}
  </div>
  {#if why !== null && most !== null}<label class="mt-2 block"
      ><span class="label">What changed since last time, for the student</span><textarea
        class="field py-1 text-sm"
        rows={reason ? 2 : 1}
        maxlength="1000"
        bind:value={() => reason, (next) => (typed = { text, why: next, after })}></textarea></label
    >{/if}
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
          typed = { text, why: reason, after: copy.score };
          void give('score');
        }}>Save mine over it</button
      >
    </p>{/if}
  {#if over}<p class="notice mt-2">{over}</p>{/if}
</form>
