<script lang="ts">
  import { untrack } from 'svelte';
  import { SvelteSet } from 'svelte/reactivity';
  import { beforeNavigate } from '$app/navigation';
  import type { CopyState } from '$core/copy/state';
  import { samePoints, writePoints } from '$core/marking/points';
  import {
    descriptorsOf,
    type RubricStep,
    saySum,
    stepAt,
    stepsOf,
  } from '$core/marking/rubric-steps';
  import { pointsOf } from '$core/marking/kept-score';
  import type { Scoring } from '$core/marking/scoring';
  import { isWriting } from '$ui/is-writing';
  import LevelLine from '$ui/marking/LevelLine.svelte';
  import { ScoringForm } from './scoring-form.svelte';

  interface Props {
    page: string;
    rubric: Scoring['rubric'];
    /** What the copy was scored last, and that score's id. */
    scoring: Scoring | null;
    score: string | null;
    /** What the assignment counts for; null for no points. */
    most: string | null;
    stands: CopyState;
    changed: () => Promise<void>;
    /** Makes the assignment count for what the rubric does; null for who may not. */
    makeEqual: (() => Promise<void>) | null;
  }
  let { page, rubric, scoring, score, most, stands, changed, makeEqual }: Props = $props();

  const form = untrack(() => new ScoringForm(page, rubric));
  untrack(() => form.take(scoring, score));
  $effect(() => {
    form.take(scoring, score);
  });
  const steps = $derived(stepsOf(rubric.table));
  /** Whose levels the pointer is at. */
  let pointed: { criterion: string; step: RubricStep } | null = $state.raw(null);
  const open = new SvelteSet<string>();
  let sentence = $state('');
  let sending = $state(false);
  const isBehind = $derived(form.isBehind(score));

  const sum = $derived(form.sum);
  const carried = $derived(sum.left > 0 ? null : pointsOf({ points: null, rubric: sum }, most));
  const differs = $derived(most !== null && !samePoints(sum.most, most));

  async function give(move: 'score' | 'hand back') {
    if (form.fault) return void (sentence = form.fault);
    if (!form.changed && move === 'score') return;
    sending = true;
    try {
      await form.send(move);
      sentence = '';
      await changed();
    } catch (error) {
      sentence = `${error instanceof Error ? error.message : ''} What you chose is still here.`;
      await changed().catch(() => undefined);
    } finally {
      sending = false;
    }
  }
  // Whoever goes on to another view has scored this copy; for whoever leaves Uncia the browser keeps it.
  beforeNavigate(({ type }) => {
    if (type !== 'leave' && form.changed && !sending && !isBehind) void give('score');
  });

  function toFirstLeft() {
    const left = form.criteria.find(({ points }) => points === null) ?? form.criteria[0];
    const line = document.getElementById(`criterion-${left?.id}`);
    const inputs = [...(line?.querySelectorAll<HTMLInputElement>('input[type="radio"]') ?? [])];
    (inputs.find(({ checked }) => checked) ?? inputs[0])?.focus();
  }
  function keys(event: KeyboardEvent) {
    if (isWriting(event)) return;
    if (event.key !== 's' || event.ctrlKey || event.metaKey || event.altKey) return;
    event.preventDefault();
    toFirstLeft();
  }
  const describe = (criterion: string) => (step: RubricStep) =>
    descriptorsOf(rubric.table, criterion, step)
      .map(({ says }) => says)
      .join(' / ');
  /** What is in sight of a criterion: the step under the pointer, or the chosen one, or the best. */
  const shown = (criterion: string, points: string | null) =>
    pointed?.criterion === criterion
      ? pointed.step
      : (stepAt(rubric.table, points) ?? steps[steps.length - 1]);
</script>

<svelte:window onkeydown={keys} />
<form
  onsubmit={(event) => {
    event.preventDefault();
    void give('hand back');
  }}
>
  <h2 class="font-bold">Rubric · {rubric.title}</h2>
  <ul>
    {#each rubric.table.criteria as criterion, index (criterion.id)}
      {@const own = form.criteria[index]}
      {@const points = own?.points ?? null}
      {@const step = shown(criterion.id, points)}
      <li
        class="grid grid-cols-[minmax(0,1fr)_12rem] gap-x-3 border-b border-rule py-1.5"
        id="criterion-{criterion.id}"
      >
        <button
          type="button"
          class="min-w-0 self-start text-left leading-tight font-bold"
          aria-expanded={open.has(criterion.id)}
          title={open.has(criterion.id) ? 'Fewer descriptors' : 'All descriptors, and words'}
          onclick={() =>
            open.has(criterion.id) ? open.delete(criterion.id) : open.add(criterion.id)}
          >{criterion.title}</button
        >
        <div class="flex items-start gap-2">
          <div class="min-w-0 flex-1">
            <LevelLine
              label={criterion.title}
              {steps}
              describe={describe(criterion.id)}
              bind:value={() => points, (value) => form.score(criterion.id, { points: value })}
              onpoint={(at) => (pointed = at && { criterion: criterion.id, step: at })}
            />
          </div>
          <span class="w-7 text-right font-bold">{points === null ? '–' : writePoints(points)}</span
          >
        </div>
        <div class="col-span-2 min-h-5 text-sm text-ink2" aria-live="polite">
          {#if open.has(criterion.id)}
            {#each steps.filter(({ levels }) => levels.length === 1) as one (one.points)}
              <p class={points === one.points ? 'text-ink' : ''}>
                {writePoints(one.points)}: {describe(criterion.id)(one) || 'no descriptor'}
              </p>
            {/each}
          {:else if step}
            <!-- One line, so that nothing moves under the pointer. -->
            {@const says = describe(criterion.id)(step) || 'no descriptor'}
            <p class={['truncate', points === step.points && 'text-ink']} title={says}>
              {writePoints(step.points)}: {says}
            </p>
          {/if}
        </div>
        <!-- Words come to a criterion when it is scored, or looked at. -->
        {#if points !== null || own?.words || open.has(criterion.id)}<textarea
            class="field col-span-2 mt-1 py-1 text-sm"
            rows={own?.words ? 2 : 1}
            maxlength="2000"
            aria-label="Words on {criterion.title}"
            placeholder="A word on this"
            bind:value={() => own?.words ?? '', (words) => form.score(criterion.id, { words })}
          ></textarea>{/if}
      </li>
    {/each}
  </ul>
  {#if differs && makeEqual}<p class="mt-1 text-sm">
      The assignment counts for {writePoints(most ?? '0')} points, its rubric for {writePoints(
        sum.most,
      )}.
      <button type="button" class="act act-small" onclick={() => makeEqual?.()}
        >Make it count {writePoints(sum.most)}</button
      >
    </p>{/if}
  {#if most === null}<p class="mt-1 text-sm text-ink2">This assignment counts no points.</p>
  {:else if form.overruled}
    <div class="mt-2 grid grid-cols-[5rem_1fr] gap-2">
      <label
        ><span class="label">Points</span><input
          class="field"
          inputmode="decimal"
          bind:value={
            () => form.overruled?.points ?? '',
            (points) => (form.overruled = { reason: '', ...form.overruled, points })
          }
        /></label
      >
      <label
        ><span class="label">Why not the rubric’s points</span><input
          class="field"
          maxlength="1000"
          bind:value={
            () => form.overruled?.reason ?? '',
            (reason) => (form.overruled = { points: '', ...form.overruled, reason })
          }
        /></label
      >
    </div>
    <button
      type="button"
      class="act act-small act-plain mt-1"
      onclick={() => (form.overruled = null)}>Use the rubric’s points</button
    >
  {:else}<button
      type="button"
      class="act act-small act-plain -ml-2"
      onclick={() => (form.overruled = { points: '', reason: '' })}>Give other points …</button
    >{/if}
  <div
    class="sticky -bottom-3 -mx-4 mt-2 flex flex-wrap items-center gap-2 border-b border-rule bg-sheet px-4 py-2"
  >
    {#if isBehind}<div class="notice basis-full" role="alert">
        <p>Somebody else scored this copy meanwhile. What you chose is still here.</p>
        <button type="button" class="act act-small mt-1" onclick={() => form.forget()}
          >Take theirs</button
        >
        <button
          type="button"
          class="act act-small mt-1"
          onclick={() => {
            form.follow(score);
            void give('score');
          }}>Save mine over it</button
        >
      </div>{/if}
    {#if sentence}<p class="trouble basis-full" role="alert">{sentence}</p>{/if}
    <p class="min-w-0 flex-1">
      <strong>{saySum(sum)}</strong>{#if differs && carried !== null && most !== null}&ensp;→
        <strong>{writePoints(carried)} of {writePoints(most)}</strong> points, the same share{/if}{#if form.overruled && form.fault === null};
        {form.overruled.points}
        instead{/if}
    </p>
    <button
      type="button"
      class="act"
      disabled={sending || !form.changed}
      onclick={() => give('score')}>{form.changed || score === null ? 'Save' : 'Saved'}</button
    >
    <button class="act act-main" disabled={sending}
      >{stands === 'handed back' ? 'Hand back again' : 'Hand back'}</button
    >
  </div>
</form>
