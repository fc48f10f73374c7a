<script lang="ts">
  import { untrack } from 'svelte';
  import { counted } from '$core/lists/counted';
  import { readersFault } from '$core/marking/deal-readers';
  import type { DealtToClassmates } from '$server/copy/deal-readers';
  import OnOff from '$ui/fields/OnOff.svelte';
  import { Dealing } from '$ui/marking/dealing.svelte';
  import DealtNotice from '$ui/marking/DealtNotice.svelte';
  import { aboutClasses, readAgain, refreshOnNews } from '$ui/refresh';

  let { data } = $props();
  refreshOnNews(
    'uncia:classmates',
    aboutClasses(() => [data.klass.id]),
  );

  const isDealt = $derived(data.copies.length > 0);
  const dealing = untrack(
    () =>
      new Dealing<DealtToClassmates>(
        `/classes/${data.klass.id}/assignments/${data.assignment}/classmates/deal`,
        () => readAgain('uncia:classmates'),
      ),
  );
  dealing.isOpen = untrack(() => data.mayDeal && data.copies.length === 0);
  let each = $state(2);
  let named = $state(untrack(() => data.named));
  const most = $derived(Math.max(0, ...data.circles));
  const fault = $derived(readersFault(most, each || 0));
  const dealt = $derived(
    data.circles.filter((copies) => copies > (each || 0)).reduce((sum, one) => sum + one, 0),
  );
  const scored = $derived(data.copies.reduce((sum, { gave }) => sum + gave, 0));
  const asked = $derived(data.copies.reduce((sum, { reads }) => sum + reads, 0));
</script>

<main class="mx-auto min-h-0 w-full max-w-4xl flex-1 overflow-auto px-6 py-5">
  <div class="flex flex-wrap items-baseline gap-3">
    <h1 class="flex-1 text-2xl font-bold">Classmates’ scoring of {data.title}</h1>
    {#if data.mayDeal && !dealing.isOpen}<button class="act" onclick={() => (dealing.isOpen = true)}
        >{isDealt ? 'Deal anew …' : 'Deal copies …'}</button
      >{/if}
  </div>
  <p class="mt-1 text-ink2">
    Students score copies of their class by the rubric. What they give stands beside yours, goes
    back with the copy, and counts nowhere.
  </p>
  <DealtNotice
    {dealing}
    says={isDealt ? 'The copies are dealt to classmates.' : 'Nobody is asked to score any more.'}
  />
  {#if dealing.isOpen}
    <form
      class="mt-3 rounded-lg border border-rule bg-sheet px-4 py-3"
      aria-label="Deal copies to classmates"
      onsubmit={(event) => {
        event.preventDefault();
        void dealing.deal({ each, named });
      }}
    >
      <div class="flex flex-wrap items-end gap-6">
        <label
          ><span class="label">Each student scores</span><span class="flex items-center gap-2"
            ><input class="field w-20" type="number" min="1" max="20" bind:value={each} />
            {each === 1 ? 'copy' : 'copies'}</span
          ></label
        >
        <OnOff says="They see each other’s names" bind:on={named} />
      </div>
      <p class="mt-3" aria-live="polite">
        {fault ??
          `${counted(dealt, 'copy is', 'copies are')} handed in. Each is scored by ${each}, as it stands now; who hands in later is dealt in when you deal anew.`}
      </p>
      <p class="mt-1 text-sm text-ink2">
        {named
          ? 'Whose copy it is stands above it, and with each scoring who gave it.'
          : 'Names are left out of the words of a copy; what pictures and drawn lines show stays.'}
        What is attached is not shown.{data.adapted > 0
          ? ` ${counted(data.adapted, 'copy is an adapted page', 'copies are adapted pages')}: who scores one sees that page.`
          : ''}{isDealt && scored > 0
          ? ' What is given already stays with the copies; who reads whom changes.'
          : ''}
      </p>
      <div class="mt-3 flex flex-wrap gap-2">
        <button class="act act-main" disabled={dealing.sending || fault !== null}
          >{fault === null ? `Deal ${counted(dealt, 'copy', 'copies')}` : 'Deal copies'}</button
        >
        {#if isDealt}<button
            type="button"
            class="act"
            disabled={dealing.sending}
            onclick={() => dealing.set({ named: data.named, readings: [] })}
            >Ask nobody any more</button
          >{/if}
        <button type="button" class="act act-plain" onclick={() => (dealing.isOpen = false)}
          >Cancel</button
        >
      </div>
    </form>
  {/if}
  {#if isDealt}
    <p class="mt-5">
      <strong>{scored} of {asked}</strong> given, {data.named ? 'with names' : 'without names'}.
    </p>
    <table class="mt-2 w-full max-w-2xl">
      <thead
        ><tr class="text-left text-sm text-ink2"
          ><th class="py-1 font-normal">Name</th><th class="text-right font-normal">Has given</th
          ><th class="text-right font-normal">Has got</th></tr
        ></thead
      >
      <tbody>
        {#each data.copies as copy (copy.id)}
          <tr class="border-t border-rule"
            ><th class="py-1.5 text-left font-normal"
              ><a class="text-ink" href="/classes/{data.klass.id}/marking/{copy.id}">{copy.name}</a
              ></th
            ><td class={['text-right', copy.gave < copy.reads && 'font-bold']}
              >{copy.gave} of {copy.reads}</td
            ><td class="text-right">{copy.got} of {copy.readers}</td></tr
          >
        {/each}
      </tbody>
    </table>
  {/if}
</main>
