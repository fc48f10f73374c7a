<script lang="ts">
  import { Node } from 'prosemirror-model';
  import { untrack } from 'svelte';
  import { writePoints } from '$core/marking/points';
  import { descriptorsOf, stepAt, stepsOf, type RubricStep } from '$core/marking/rubric-steps';
  import type { RubricTable } from '$core/marking/rubric';
  import type { Scoring } from '$core/marking/scoring';
  import { schema } from '$core/page/schema';
  import type { CriterionCopy } from '$server/copy/by-criterion';
  import DecoratedPage from '$ui/history/DecoratedPage.svelte';
  import type { Examples } from '$ui/marking/examples.svelte';
  import LevelLine from '$ui/marking/LevelLine.svelte';
  import ScoredMeanwhile from '$ui/marking/ScoredMeanwhile.svelte';
  import type { ScoringForm } from '$ui/marking/scoring-form.svelte';

  interface Props {
    copy: CriterionCopy;
    form: ScoringForm;
    rubric: Scoring['rubric'];
    criterion: RubricTable['criteria'][number];
    title: string;
    /** What the copy is called here: its students’ names, or a number. */
    called: string;
    /** Where it is marked as a whole; null for nowhere. */
    to: string | null;
    examples: Examples;
    changed: () => Promise<void>;
  }
  let { copy, form, rubric, criterion, title, called, to, examples, changed }: Props = $props();

  const take = () => form.take(copy.scoring, copy.score, copy.why);
  untrack(take);
  $effect(take);
  const own = $derived(form.criteria.find(({ id }) => id === criterion.id));
  const steps = $derived(stepsOf(rubric.table));
  const page = $derived(Node.fromJSON(schema, copy.doc));
  let pointed: RubricStep | null = $state.raw(null);
  const step = $derived(pointed ?? stepAt(rubric.table, own?.points ?? null));
  const describe = (one: RubricStep) =>
    descriptorsOf(rubric.table, criterion.id, one)
      .map(({ says }) => says)
      .join(' / ');

  let sentence = $state('');
  let saved = $state(false);
  const isBehind = $derived(form.isBehind(copy.score));
  /** One saving after the other: each follows the score before it. */
  let saving: Promise<void> = Promise.resolve();
  function save() {
    saving = saving.then(async () => {
      if (!form.changed) return;
      try {
        await form.send('score');
        sentence = '';
        saved = true;
      } catch (error) {
        saved = false;
        sentence = `${error instanceof Error ? error.message : ''} What you chose is still here.`;
        await changed().catch(() => undefined);
      }
    });
  }
</script>

<li
  class="grid grid-cols-[minmax(0,1fr)_20rem] gap-4 border border-rule bg-sheet max-lg:grid-cols-1"
  data-copy={copy.page}
>
  <div class="max-h-[26rem] overflow-auto bg-(--page) px-7 py-3">
    <DecoratedPage {page} label="{called}: {title}" />
  </div>
  <div class="px-3 py-3">
    <h2 class="font-bold">
      {#if to}<a class="text-ink" href={to}>{called}</a>{:else}{called}{/if}
    </h2>
    <div class="mt-2 flex items-start gap-2">
      <div class="min-w-0 flex-1" data-levels>
        <LevelLine
          label="{criterion.title}, {called}"
          {steps}
          {describe}
          bind:value={
            () => own?.points ?? null,
            (points) => {
              form.score(criterion.id, { points });
              save();
            }
          }
          onpoint={(at) => (pointed = at)}
        />
      </div>
      <span class="w-7 text-right font-bold"
        >{own?.points == null ? '–' : writePoints(own.points)}</span
      >
    </div>
    <p class="mt-1 min-h-10 text-sm text-ink2" aria-live="polite">
      {#if step}{writePoints(step.points)}: {describe(step) || 'no descriptor'}{/if}
    </p>
    <textarea
      class="field mt-1 py-1 text-sm"
      rows="2"
      maxlength="2000"
      aria-label="Words on {criterion.title}, {called}"
      placeholder="A word on this"
      bind:value={() => own?.words ?? '', (words) => form.score(criterion.id, { words })}
      onblur={save}></textarea>
    {#if isBehind}<div class="mt-2">
        <ScoredMeanwhile {form} score={copy.score} {save} taken={() => (sentence = '')} />
      </div>{:else if sentence}<p class="trouble mt-2" role="alert">{sentence}</p>
      <button type="button" class="act act-small mt-1" onclick={save}>Save again</button>
    {:else if saved && !form.changed}<p class="mt-1 text-sm text-ink2" role="status">Saved</p>{/if}
    {#if own?.points != null}{@const { points } = own}<button
        type="button"
        class="act act-small act-plain mt-1 -ml-2"
        onclick={() => examples.keep(copy.page, criterion.id, points)}
        >Keep as an example of {writePoints(points)}</button
      >{/if}
  </div>
</li>
