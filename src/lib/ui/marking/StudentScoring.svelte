<script lang="ts">
  import { untrack } from 'svelte';
  import { writePoints } from '$core/marking/points';
  import {
    descriptorsOf,
    saySum,
    stepAt,
    stepsOf,
    type RubricStep,
  } from '$core/marking/rubric-steps';
  import type { StudentScoringAsked } from '$core/marking/student-scoring';
  import { fetchJson } from '../send';
  import LevelLine from './LevelLine.svelte';
  import ScoredMeanwhile from './ScoredMeanwhile.svelte';
  import { ScoringForm, type StudentScores } from './scoring-form.svelte';

  interface Props {
    /** The copy that is scored. */
    page: string;
    /** Whose copy it is. */
    what: StudentScores;
    title: string;
    /** What becomes of it. */
    says: string;
    asked: StudentScoringAsked;
    writable: boolean;
  }
  /** A student’s scoring of a copy, by the rubric that it is scored by afterwards. */
  let { page, what, title, says, asked = $bindable(), writable }: Props = $props();

  const { rubric } = $derived(asked);
  const version = $derived(rubric.version);
  /** A rubric that was changed is another form. */
  const form = $derived.by(() => {
    void version;
    return untrack(() => new ScoringForm(page, rubric));
  });
  const last = $derived(asked.last?.id ?? null);
  const isBehind = $derived(form.isBehind(last));
  $effect(() => form.take(asked.last?.scoring ?? null, last));
  const steps = $derived(stepsOf(rubric.table));
  const describe = (criterion: string) => (step: RubricStep) =>
    descriptorsOf(rubric.table, criterion, step)
      .map(({ says }) => says)
      .join(' / ');

  /** The step under the pointer. */
  let pointed: { criterion: string; step: RubricStep } | null = $state.raw(null);
  let sentence = $state('');
  let sending = $state(false);
  async function save() {
    sending = true;
    try {
      await form.sendAsStudent(what);
      sentence = '';
    } catch (error) {
      sentence = `${error instanceof Error ? error.message : ''} What you chose is still here.`;
    }
    // Somebody who shares it may have scored it, or the rubric have changed.
    const now = await fetchJson<StudentScoringAsked | null>(`/pages/${page}/${what}`).catch(
      () => null,
    );
    if (now) asked = now;
    sending = false;
  }
</script>

<section class="mt-8 border-t-2 border-ink pt-4" aria-label={title}>
  <h2 class="font-bold">{title} · {rubric.title}</h2>
  <p class="text-sm text-ink2">{says}</p>
  <ul class="mt-2">
    {#each rubric.table.criteria as criterion (criterion.id)}
      {@const own = form.criteria.find(({ id }) => id === criterion.id)}
      {@const at = pointed?.criterion === criterion.id ? pointed.step : null}
      {@const step = at ?? stepAt(rubric.table, own?.points ?? null)}
      <li
        class="grid grid-cols-[minmax(0,1fr)_14rem] gap-x-4 border-b border-rule py-2 max-sm:grid-cols-1"
      >
        <h3 class="font-bold">{criterion.title}</h3>
        {#if writable}
          <LevelLine
            label={criterion.title}
            {steps}
            describe={describe(criterion.id)}
            bind:value={() => own?.points ?? null, (points) => form.score(criterion.id, { points })}
            onpoint={(at) => (pointed = at && { criterion: criterion.id, step: at })}
          />
        {:else}<p class="text-right">
            {step ? `${writePoints(step.points)}` : 'not scored'}
          </p>{/if}
        <p class="col-span-full min-h-5 text-sm text-ink2" aria-live="polite">
          {#if step}{writePoints(step.points)}: {describe(criterion.id)(step) ||
              'no descriptor'}{/if}
        </p>
        {#if writable}<details class="col-span-full text-sm text-ink2">
            <summary class="cursor-pointer py-1">What the levels say</summary>
            {#each steps.filter(({ levels }) => levels.length === 1) as one (one.points)}
              <p>{writePoints(one.points)}: {describe(criterion.id)(one) || 'no descriptor'}</p>
            {/each}
          </details>
          <textarea
            class="field col-span-full mt-1 py-1 text-sm"
            rows="1"
            maxlength="2000"
            aria-label="Why, for {criterion.title}"
            placeholder="Why, if you like"
            bind:value={() => own?.words ?? '', (words) => form.score(criterion.id, { words })}
          ></textarea>{:else if own?.words}<p class="col-span-full text-sm">{own.words}</p>{/if}
      </li>
    {/each}
  </ul>
  {#if writable && isBehind}<div class="mt-2">
      <ScoredMeanwhile
        {form}
        score={last}
        {save}
        says="It was scored meanwhile, by one of you or in another browser."
        take="Take that"
        taken={() => (sentence = '')}
      />
    </div>{:else if sentence}<p class="trouble mt-2" role="alert">{sentence}</p>{/if}
  <p class="mt-2 flex items-center gap-3">
    <strong class="flex-1">{saySum(form.sum)}</strong>
    {#if writable}<button
        type="button"
        class="act"
        disabled={sending || !form.changed || isBehind}
        onclick={save}>{form.changed || !asked.last ? 'Save my scoring' : 'Saved'}</button
      >{/if}
  </p>
</section>
