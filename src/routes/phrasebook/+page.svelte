<script lang="ts">
  import { findPhrases } from '$core/phrasebook/phrase';
  import { counted } from '$core/lists/counted';
  import FileField from '$ui/fields/FileField.svelte';
  import Removed from '$ui/plan/Removed.svelte';
  import { enhance } from '$ui/refresh';
  import FormButton from '$ui/shell/FormButton.svelte';
  import OwnStamps from './OwnStamps.svelte';
  import PhraseForm from './PhraseForm.svelte';

  let { data, form } = $props();
  let typed = $state('');
  let changing: string | null = $state(null);
  const here = $derived(data.phrases.filter(({ away }) => !away));
  const shown = $derived(typed.trim() ? findPhrases(here, typed, here.length) : here);
</script>

<main class="min-w-0 flex-1 overflow-auto px-5 py-5">
  <div class="mx-auto max-w-4xl">
    <div class="flex flex-wrap items-center gap-3">
      <h1 class="flex-1 text-2xl font-bold">Phrasebook</h1>
      <form method="POST" action="?/read" enctype="multipart/form-data" use:enhance>
        <FileField label="Import a .csv file" name="table" accept={['.csv', '.txt']} asButton />
      </form>
      <a class="act act-small" href="/phrasebook/table" download>Export .csv</a>
    </div>
    <p class="mt-1 text-ink2">
      Comments that you write often. While you type a comment, those that fit are offered.
      <strong>{'{name}'}</strong> becomes the student’s first name, <strong>{'{work}'}</strong> the
      assignment’s title, <strong>{'{words}'}</strong> the words that you selected.
    </p>
    {#if form && 'sentence' in form}<p class="trouble mt-3" role="alert">{form.sentence}</p>{/if}
    {#if form && 'added' in form && form.added !== undefined}<p class="notice mt-3" role="status">
        {counted(form.added, 'phrase')} added{form.there
          ? `; ${form.there} ${form.there === 1 ? 'was' : 'were'} there already`
          : ''}.{form.passed?.length ? ` Skipped: ${form.passed.join('; ')}.` : ''}
      </p>{/if}
    <div class="mt-4"><PhraseForm action="add" courses={data.courses} /></div>
    {#if here.length > 6}<label class="mt-5 block max-w-sm"
        ><span class="label">Search your phrases</span>
        <input class="field" type="search" bind:value={typed} /></label
      >{/if}
    <ul class="mt-3">
      {#each shown as phrase (phrase.id)}
        <li class="border-b border-rule py-2.5">
          {#if changing === phrase.id}<PhraseForm
              action="change"
              courses={data.courses}
              {phrase}
              done={() => (changing = null)}
            />{:else}<div class="flex items-start gap-3">
              <div class="min-w-0 flex-1">
                <p class="break-words whitespace-pre-line">{phrase.text}</p>
                <p class="text-sm text-ink2">
                  {[
                    phrase.used > 0 ? `used ${counted(phrase.used, 'time')}` : 'not used yet',
                    phrase.own ? '' : `from ${phrase.by}`,
                    phrase.course ? `shared with colleagues of ${phrase.course.title}` : '',
                  ]
                    .filter(Boolean)
                    .join(' · ')}
                </p>
              </div>
              {#if phrase.own}<button
                  class="act act-small"
                  aria-label="Change “{phrase.text}”"
                  onclick={() => (changing = phrase.id)}>Change</button
                ><FormButton
                  label="Remove"
                  action="away"
                  fields={{ id: phrase.id, away: 'true' }}
                  look="act act-small"
                />{/if}
            </div>{/if}
        </li>
      {:else}<li class="py-3 text-ink2">
          {typed.trim()
            ? 'No phrase fits that.'
            : 'No phrases yet. Add one here, or save one from a comment with Alt P.'}
        </li>{/each}
    </ul>
    <Removed
      gone={data.phrases
        .filter(({ away }) => away)
        .map(({ id, text }) => ({ id, title: text, fields: { id } }))}
    />
    <OwnStamps stamps={data.stamps} />
  </div>
</main>
