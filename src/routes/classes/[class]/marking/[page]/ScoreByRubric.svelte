<script lang="ts">
  import MessageSquarePlus from '@lucide/svelte/icons/message-square-plus';
  import { untrack } from 'svelte';
  import { SvelteSet } from 'svelte/reactivity';
  import { beforeNavigate } from '$app/navigation';
  import type { CopyState } from '$core/copy/state';
  import type { OnCriterion } from '$core/copy/threads';
  import { samePoints, writePoints } from '$core/marking/points';
  import {
    descriptorsOf,
    type RubricStep,
    saySum,
    stepAt,
    stepsOf,
  } from '$core/marking/rubric-steps';
  import { pointsOf } from '$core/marking/kept-score';
  import type { ClassmatesScoring } from '$core/marking/student-scoring';
  import type { Scoring } from '$core/marking/scoring';
  import { isWriting } from '$ui/is-writing';
  import ExampleButtons from '$ui/marking/ExampleButtons.svelte';
  import ExampleSheet from '$ui/marking/ExampleSheet.svelte';
  import { Examples } from '$ui/marking/examples.svelte';
  import LevelLine from '$ui/marking/LevelLine.svelte';
  import ScoredMeanwhile from '$ui/marking/ScoredMeanwhile.svelte';
  import { ScoringForm } from '$ui/marking/scoring-form.svelte';

  interface Props {
    page: string;
    /** The address of the assignment in its class. */
    assignment: string;
    rubric: Scoring['rubric'];
    /** What the copy was scored last, and that score's id. */
    scoring: Scoring | null;
    /** What its students scored it with themselves. */
    own: Scoring | null;
    classmates: readonly ClassmatesScoring[];
    score: string | null;
    /** Why it differs from what the copy had before; null where it had nothing. */
    why: string | null;
    /** What the assignment counts for; null for no points. */
    most: string | null;
    stands: CopyState;
    /** How a score is sent; one of two who mark a copy apart does not hand it back. */
    move: 'score' | 'score apart';
    changed: () => Promise<void>;
    /** Begins a comment on a criterion. */
    comment: (criterion: OnCriterion) => void;
    /** Makes the assignment count for what the rubric does; null for who may not. */
    makeEqual: (() => Promise<void>) | null;
  }
  let {
    page,
    assignment,
    rubric,
    scoring,
    own: theirs,
    classmates,
    score,
    why,
    most,
    stands,
    move,
    changed,
    comment,
    makeEqual,
  }: Props = $props();

  const form = untrack(() => new ScoringForm(page, rubric));
  const take = () => form.take(scoring, score, why ?? '');
  untrack(take);
  $effect(take);
  const steps = $derived(stepsOf(rubric.table));
  /** Whose levels the pointer is at. */
  let pointed: { criterion: string; step: RubricStep } | null = $state.raw(null);
  const open = new SvelteSet<string>();
  const examples = untrack(() => new Examples(assignment));
  let sentence = $state('');
  let sending = $state(false);
  const isBehind = $derived(form.isBehind(score));

  const sum = $derived(form.sum);
  const carried = $derived(sum.left > 0 ? null : pointsOf({ points: null, rubric: sum }, most));
  const differs = $derived(most !== null && !samePoints(sum.most, most));

  async function give(how: 'score' | 'hand back') {
    if (form.fault) return void (sentence = form.fault);
    if (!form.changed && how === 'score') return;
    sending = true;
    try {
      await form.send(how === 'score' ? move : how);
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

  function unfold(criterion: string) {
    open.add(criterion);
    void examples.load();
  }
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
{#if examples.shown}<ExampleSheet {examples} {rubric} />{/if}
<form
  onsubmit={(event) => {
    event.preventDefault();
    void give(move === 'score' ? 'hand back' : 'score');
  }}
>
  <h2 class="font-bold">Rubric · {rubric.title}</h2>
  <ul>
    {#each rubric.table.criteria as criterion, index (criterion.id)}
      {@const own = form.criteria[index]}
      {@const points = own?.points ?? null}
      {@const step = shown(criterion.id, points)}
      {@const others = classmates.flatMap(
        ({ scoring }) => scoring.criteria.find(({ id }) => id === criterion.id)?.points ?? [],
      )}
      {@const self = theirs?.criteria.find(({ id }) => id === criterion.id)}
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
            open.has(criterion.id) ? open.delete(criterion.id) : unfold(criterion.id)}
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
        <div class="col-span-2 flex min-h-6 items-start gap-2">
          <div class="min-w-0 flex-1 text-sm text-ink2" aria-live="polite">
            {#if open.has(criterion.id)}
              {#each steps.filter(({ levels }) => levels.length === 1) as one (one.points)}
                <p class={points === one.points ? 'text-ink' : ''}>
                  {writePoints(one.points)}: {describe(criterion.id)(one) || 'no descriptor'}
                  <ExampleButtons {examples} criterion={criterion.id} points={one.points} />
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
          {#if self?.points != null}<span
              class="shrink-0 text-sm text-ink2"
              title={self.words ? `Scored it themselves: ${self.words}` : 'Scored it themselves'}
              >student: {writePoints(self.points)}</span
            >{/if}
          {#if others.length > 0}<span class="shrink-0 text-sm text-ink2"
              >classmates: {others.map(writePoints).join(', ')}</span
            >{/if}
          <button
            type="button"
            class="grid h-6 w-7 shrink-0 place-items-center rounded text-ink2 hover:bg-ice-pale hover:text-ink"
            aria-label="Comment on {criterion.title}"
            title="Comment on {criterion.title}"
            onclick={() => comment({ id: criterion.id, title: criterion.title })}
            ><MessageSquarePlus size={16} aria-hidden="true" /></button
          >
        </div>
        {#if self?.words && open.has(criterion.id)}<p class="col-span-2 text-sm text-ink2">
            They say: {self.words}
          </p>{/if}
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
  {#if why !== null}<label class="mt-2 block"
      ><span class="label">What changed since last time, for the student</span><textarea
        class="field py-1 text-sm"
        rows={form.why ? 2 : 1}
        maxlength="1000"
        bind:value={() => form.why, (text) => (form.why = text)}></textarea></label
    >{/if}
  <div
    class="sticky -bottom-3 -mx-4 mt-2 flex flex-wrap items-center gap-2 border-b border-rule bg-sheet px-4 py-2"
  >
    {#if isBehind}<ScoredMeanwhile
        {form}
        {score}
        save={() => void give('score')}
        taken={() => (sentence = '')}
      />{:else if sentence}<p class="trouble basis-full" role="alert">{sentence}</p>{/if}
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
    {#if move === 'score'}<button class="act act-main" disabled={sending}
        >{stands === 'handed back' ? 'Hand back again' : 'Hand back'}</button
      >{/if}
  </div>
</form>
