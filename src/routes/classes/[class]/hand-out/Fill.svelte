<script lang="ts">
  import { onMount, untrack } from 'svelte';
  import { goto } from '$app/navigation';
  import { page as view } from '$app/state';
  import type { HandOutSpec } from '$core/handout/spec';
  import AsStudent from '$ui/handout/AsStudent.svelte';
  import PlanSentences from '$ui/handout/PlanSentences.svelte';
  import HandOutFields from '$ui/handout/HandOutFields.svelte';
  import { HandOutForm } from '$ui/handout/hand-out-form.svelte';
  import { LeftForm } from '$ui/handout/left-form.svelte';
  import type { KnownHandOut } from '$server/handout/drafts';
  import { differences } from '$core/lists/differences';
  import { sayOddity, sayPlanFact } from '$core/handout/say-plan';
  import { describeHandOut } from '$core/handout/describe-hand-out';
  import Conflict from '$ui/Conflict.svelte';
  import { bringIntoView } from '$ui/shell/bring-into-view';
  import { Refusal, send } from '$ui/send';
  import { sayDay, when } from '$core/calendar/say-time';
  import type { PageData } from './$types';

  interface Theirs {
    spec: HandOutSpec;
    version: number;
    by: string;
    goesOut: number | null;
  }
  let { data }: { data: PageData } = $props();
  let form = $state.raw(untrack(() => new HandOutForm(data.world, data.spec, data.goesOut)));
  /** The mark of this hand-out: sent twice, it makes one assignment. */
  let id = $state(untrack(() => data.id));
  let busy = $state(false);
  let trouble = $state(untrack(() => data.fault ?? ''));
  let kept = $state('');
  let naming = $state(false);
  let name = $state('');

  const to = $derived(`/classes/${data.klass.id}/hand-out/${id}`);
  const zone = $derived(form.world.timeZone);
  const plan = $derived(form.plan);
  const goesOut = $derived(form.situation.goesOut);
  const later = $derived(form.goesOut !== '');

  async function attempt(work: () => Promise<void>) {
    trouble = form.fault;
    kept = '';
    if (trouble) return;
    busy = true;
    try {
      await work();
    } catch (error) {
      trouble = `${error instanceof Error ? error.message : 'This was not done.'} What you filled in is still here.`;
    } finally {
      busy = false;
    }
  }
  /** What the same people were given before. */
  let known = $state<KnownHandOut | null>(null);
  /** Does it, though they have it already. */
  let onceMore = $state<() => void>(() => undefined);
  function sayKnown(error: unknown, anyway: () => void) {
    const same = error instanceof Refusal && error.body.known;
    if (!same) throw error;
    known = same as KnownHandOut;
    onceMore = anyway;
  }
  const now = (again = false) =>
    attempt(async () => {
      known = null;
      try {
        await send(to, { spec: form.whole, again });
      } catch (error) {
        return sayKnown(error, () => void now(true));
      }
      left.done();
      await goto(`/classes/${data.klass.id}`);
    });
  const left = untrack(() => new LeftForm(`${data.klass.id} ${view.url.search}`));
  onMount(() => {
    const begun = JSON.stringify(left.of(form));
    void left.read().then((before) => {
      // A draft that was saved since is newer than what was left here.
      if (!before || before.version !== version || JSON.stringify(left.of(form)) !== begun) return;
      ({ id } = before);
      form = new HandOutForm(data.world, before.spec, null);
      Object.assign(form, { points: before.points, goesOut: before.goesOut });
      kept = 'Filled in as you left it.';
    });
  });
  $effect(() => left.keep({ id, version, ...left.of(form) }));
  let version = $state(untrack(() => data.version));
  /** What somebody else saved since this was read. */
  let theirs = $state<Theirs | null>(null);
  let saveMine: () => void = () => undefined;
  const saveDraft = (goesOut: string | null, again = false) =>
    attempt(async () => {
      known = null;
      saveMine = () => void saveDraft(goesOut, again);
      try {
        const saved = await send<{ version: number }>(
          to,
          { spec: form.whole, goesOut, version, again },
          'PUT',
        );
        ({ version } = saved);
        left.done();
        theirs = null;
      } catch (error) {
        const conflict = error instanceof Refusal && error.body.theirs;
        if (!conflict) return sayKnown(error, () => void saveDraft(goesOut, true));
        return void (theirs = conflict as Theirs);
      }
      if (goesOut) await goto(`/classes/${data.klass.id}/hand-out`);
      else kept = 'Saved as a draft. The staff of the class can finish it.';
    });
  const saveTemplate = () =>
    attempt(async () => {
      await send(`/classes/${data.klass.id}/hand-out/templates`, { name, spec: form.whole });
      kept = `Saved as the template “${name}”.`;
      naming = false;
    });
  /** As another hand-out was, with this one's pages, classes and title. */
  function fillAs(spec: HandOutSpec) {
    const { title, originals, classes, instructions, due } = form.whole;
    const first = spec.originals[0]?.delivery ?? 'one each';
    form = new HandOutForm(
      data.world,
      {
        ...spec,
        title,
        classes,
        instructions,
        only: null,
        without: [],
        adapted: [],
        form: form.spec.form,
        due: spec.due.kind === 'lesson' ? spec.due : due,
        originals: originals.map((one) => ({ ...one, delivery: first })),
      },
      null,
    );
    kept = 'Filled in as before. Look it over.';
  }
</script>

<div class="flex min-h-0 flex-1 max-lg:flex-col max-lg:overflow-auto">
  <main class="min-w-0 flex-1 overflow-auto px-6 pt-4 max-lg:overflow-visible">
    <form
      class="mx-auto max-w-3xl space-y-4"
      onsubmit={(event) => {
        event.preventDefault();
        void (later ? saveDraft(form.goesOut) : now());
      }}
    >
      <div class="flex flex-wrap items-center gap-2">
        <h1 class="flex-1 text-xl font-bold">Hand out</h1>
        {#if data.last}<button
            type="button"
            class="act act-small"
            onclick={() => data.last && fillAs(data.last)}>As last time</button
          >{/if}
        {#if data.templates.length > 0}
          <select
            class="field w-auto py-1 text-sm"
            aria-label="As in a template"
            value=""
            onchange={(event) => {
              const chosen = data.templates.find(({ id }) => id === event.currentTarget.value);
              if (chosen) fillAs(chosen.spec);
              event.currentTarget.value = '';
            }}
          >
            <option value="">a template …</option>
            {#each data.templates as template (template.id)}<option value={template.id}
                >{template.name}</option
              >{/each}
          </select>
        {/if}
      </div>
      {#if trouble}<p class="trouble" role="alert" {@attach bringIntoView}>{trouble}</p>{/if}
      {#if known}
        <div class="notice" role="alert" {@attach bringIntoView}>
          <p>
            “{known.title}” {known.planned ? 'goes out with' : 'gave'} some of these pages to some of
            these students{known.planned ? '' : ' before'}: {known.class}, {when(
              known.at,
              data.world.now,
              zone,
            )}. Nothing was done yet.
          </p>
          <div class="mt-2 flex gap-2">
            <button type="button" class="act act-small" disabled={busy} onclick={onceMore}
              >Hand it out once more</button
            >
            <button type="button" class="act act-small act-plain" onclick={() => (known = null)}
              >Leave it</button
            >
          </div>
        </div>
      {/if}
      {#if theirs}
        <Conflict
          by={theirs.by}
          differences={differences(describeHandOut(form.whole), describeHandOut(theirs.spec))}
          takeTheirs={() => {
            if (!theirs) return;
            form = new HandOutForm(data.world, theirs.spec, theirs.goesOut);
            ({ version } = theirs);
            theirs = null;
          }}
          saveMine={() => {
            version = theirs?.version ?? version;
            saveMine();
          }}
        />
      {/if}
      <HandOutFields {form} fixed={data.klass.id} fresh />
      <div class="sticky bottom-0 z-10 -mx-2 border-t border-rule bg-paper px-2 pt-3">
        <PlanSentences
          sentences={plan.facts.map((fact) => sayPlanFact(fact, zone))}
          oddities={plan.oddities.map((oddity) => sayOddity(oddity, zone))}
        />
        <div class="flex flex-wrap items-center gap-3 py-3">
          <button class="act act-main" disabled={busy}
            >{later
              ? `Hand out on ${sayDay(goesOut, data.klass.time_zone)}`
              : 'Hand out now'}</button
          >
          {#if later}<button
              type="button"
              class="act"
              disabled={busy}
              onclick={(event) => event.currentTarget.form?.reportValidity() && void now()}
              >Hand out now</button
            >{/if}
          <button
            type="button"
            class="act"
            disabled={busy}
            onclick={(event) => event.currentTarget.form?.reportValidity() && saveDraft(null)}
            >Save as draft</button
          >
          <button
            type="button"
            class="act act-plain"
            aria-expanded={naming}
            onclick={() => (naming = !naming)}>Save as template …</button
          >
          <span class="text-sm text-ink2" role="status"
            >{kept || (left.isKept ? 'Not handed out yet. It is kept in this browser.' : '')}</span
          >
        </div>
        {#if naming}
          <div class="flex items-end gap-2 pb-4">
            <label class="flex-1"
              ><span class="label">Name of the template</span><input
                class="field"
                maxlength="100"
                bind:value={name}
              /></label
            >
            <button type="button" class="act" disabled={!name.trim()} onclick={saveTemplate}
              >Save</button
            >
          </div>
        {/if}
      </div>
    </form>
  </main>
  <aside
    class="w-[27rem] shrink-0 overflow-auto border-l border-rule bg-sheet px-5 py-4 max-lg:w-full max-lg:border-t max-lg:border-l-0"
    aria-label="Preview"
  >
    {#each data.notes as note (note.id)}<p
        class="mb-3 border-l-3 border-lamp bg-lamp-pale px-3 py-2 text-sm"
      >
        {note.text}
        <span class="text-ink2"
          >{note.by}, {when(note.at, data.world.now, data.klass.time_zone)}</span
        >
      </p>{/each}
    <AsStudent {form} />
  </aside>
</div>
