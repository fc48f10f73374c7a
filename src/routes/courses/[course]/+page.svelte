<script lang="ts">
  import BookOpen from '@lucide/svelte/icons/book-open';
  import Ellipsis from '@lucide/svelte/icons/ellipsis';
  import FilePen from '@lucide/svelte/icons/file-pen-line';
  import Rows from '@lucide/svelte/icons/rows-3';
  import HandOutIn from '$ui/handout/HandOutIn.svelte';
  import { clipboard } from '$ui/plan/clipboard.svelte';
  import Notes from '$ui/plan/Notes.svelte';
  import BeginPage from '$ui/plan/BeginPage.svelte';
  import Removed from '$ui/plan/Removed.svelte';
  import PickedUp from '$ui/plan/PickedUp.svelte';
  import UnitHead from '$ui/plan/UnitHead.svelte';
  import NewUnit from '$ui/plan/NewUnit.svelte';
  import UnitList from '$ui/plan/UnitList.svelte';
  import { enhance } from '$ui/refresh';
  import FormButton from '$ui/shell/FormButton.svelte';
  import Menu from '$ui/shell/Menu.svelte';
  import ImportPages from './ImportPages.svelte';
  import Sharing from './Sharing.svelte';

  let { data, form } = $props();
  let trouble = $state('');
  let chosen: string[] = $state([]);
  let noting = $state('');
  const warn = (sentence: string) => (trouble = sentence);

  type Page = (typeof data.pages)[number];
  type Rubric = (typeof data.rubrics)[number];
  type Thing = { id: string; title: string; page?: Page; rubric?: Rubric };

  const things = $derived([
    ...data.pages.map((page, place) => ({
      id: page.id,
      title: page.title,
      unit: page.unit,
      place,
      page,
    })),
    ...data.rubrics.map((rubric) => ({
      id: rubric.id,
      title: rubric.title,
      unit: rubric.unit,
      place: rubric.place,
      rubric,
    })),
  ]);
  const inUnit = (unit: string | null): Thing[] =>
    things.filter((thing) => thing.unit === unit).sort((a, b) => a.place - b.place);
  const units = $derived([
    ...data.units.map((unit) => ({ ...unit, things: inUnit(unit.id) })),
    { id: null, title: '', things: inUnit(null) },
  ]);
  const KINDS_OF_PAGE = {
    name: 'kind',
    label: 'Kind of the new page',
    values: ['original', 'reading', 'rubric'].map((kind): [string, string] => [kind, kind]),
  };
  /** The classes that these originals would go to. */
  const goesTo = $derived(data.chosen ? [data.chosen] : data.classes);
  const kinds = { original: FilePen, reading: BookOpen, 'class page': BookOpen };
  const count = (n: number, one: string) => `${n} ${one}${n === 1 ? '' : 's'}`;

  function about({ page, rubric }: Thing): string {
    if (rubric)
      return `rubric · ${count(rubric.criteria, 'criterion').replace('criterions', 'criteria')} · ${rubric.points} points`;
    if (!page) return '';
    if (page.kind === 'reading') return 'reading';
    const adapts = page.adapts ? data.pages.find(({ id }) => id === page.adapts)?.title : null;
    const used =
      page.handedOut === 0
        ? ''
        : page.handedOut === 1
          ? ' · handed out once'
          : ` · handed out ${page.handedOut} times`;
    const behind = page.behind ? ', which has changed since' : '';
    return `${adapts ? `adapts ${adapts}${behind}` : 'original'} · ${count(page.parts, 'part')}${used}`;
  }

  const staying =
    () =>
    ({ update }: { update: (options?: { reset?: boolean }) => Promise<void> }) =>
      update({ reset: false });

  function pickUp(move: boolean) {
    const taken = things.filter(({ id }) => chosen.includes(id));
    const ids = (of: typeof taken) => of.map(({ id }) => id);
    const pages = ids(taken.filter((one) => 'page' in one));
    const rubrics = ids(taken.filter((one) => 'rubric' in one));
    clipboard.pickUp({ pages, rubrics, titles: taken.map(({ title }) => title), move });
    chosen = [];
  }
  const put = async (unit: string | null) =>
    (trouble = await clipboard.put(`/courses/${data.course.id}/paste`, unit));
</script>

<main class="min-w-0 flex-1 overflow-auto px-5 py-5">
  <div class="mx-auto max-w-5xl">
    <div class="flex flex-wrap items-center gap-3">
      {#if data.mayWrite}
        <form method="POST" action="?/rename" use:enhance={staying} class="min-w-0 flex-1">
          <h1 class="sr-only">{data.course.title}</h1>
          <input
            class="w-full border-0 border-b border-dashed border-transparent bg-transparent px-0 text-2xl font-bold hover:border-rule focus:border-quiet"
            name="title"
            value={data.course.title}
            aria-label="Title of the course"
            maxlength="300"
            required
            onchange={(event) => event.currentTarget.form?.requestSubmit()}
          />
        </form>
        <a class="act act-small" href="/courses/{data.course.id}/codes">Codes</a>
        <ImportPages course={data.course.id} units={data.units} />
      {:else}
        <h1 class="flex-1 text-2xl font-bold">{data.course.title}</h1>
      {/if}
      <Sharing sharers={data.sharers} colleagues={data.colleagues} mayShare={data.mayShare} />
    </div>
    {#if data.chosen}<p class="text-ink2">Choose what to hand out in {data.chosen.name}.</p>{/if}
    {#if form?.sentence || trouble}<p class="trouble mt-3" role="alert">
        {form?.sentence || trouble}
      </p>{/if}
    {#if chosen.length > 0}
      <div
        class="sticky top-0 z-20 mt-3 flex flex-wrap items-center gap-2 rounded-lg border border-ice bg-ice-pale px-4 py-2"
        role="status"
      >
        <span class="flex-1">{chosen.length} chosen</span>
        <button class="act act-small" onclick={() => pickUp(false)}>Copy</button>
        {#if data.mayWrite}<button class="act act-small" onclick={() => pickUp(true)}>Move</button
          >{/if}
        <button class="act act-small act-plain" onclick={() => (chosen = [])}
          >Clear selection</button
        >
      </div>
    {:else if data.mayWrite}<PickedUp says="Choose where, here or in another course." />
    {/if}

    <div class="mt-3">
      <Notes
        notes={data.notes.filter((note) => note.about === data.course.id)}
        about="course"
        id={data.course.id}
        open={noting === data.course.id}
        done={() => (noting = '')}
        mayWrite={data.mayWrite}
      />
    </div>

    <div class="mt-4">
      <UnitList
        {units}
        order={data.mayWrite ? `/courses/${data.course.id}/order` : null}
        trouble={warn}
        noUnit="In no unit yet"
      >
        {#snippet head(unit)}
          <UnitHead {unit} mayWrite={data.mayWrite} {put} note={() => (noting = unit.id)} />
        {/snippet}
        {#snippet row(thing)}
          {@const Kind = thing.page ? kinds[thing.page.kind] : Rows}
          <div
            class="grid min-w-0 flex-1 grid-cols-[minmax(0,1fr)_fit-content(19rem)] gap-x-4 py-2 pr-2 max-lg:grid-cols-1"
          >
            <div class="flex min-w-0 items-center gap-2">
              <label class="grid h-8 w-7 shrink-0 place-items-center"
                ><input
                  type="checkbox"
                  class="h-4 w-4"
                  aria-label="Choose {thing.title}"
                  checked={chosen.includes(thing.id)}
                  onchange={(event) =>
                    (chosen = event.currentTarget.checked
                      ? [...chosen, thing.id]
                      : chosen.filter((one) => one !== thing.id))}
                /></label
              >
              <Kind
                size={18}
                class={['shrink-0', thing.page?.adapts ? 'text-plum' : 'text-ink2']}
                aria-hidden="true"
              />
              <div class="min-w-0 flex-1">
                <a
                  class="block truncate font-bold text-ink no-underline hover:text-spruce"
                  href={thing.rubric
                    ? `/courses/${data.course.id}/rubrics/${thing.id}`
                    : `/${data.mayWrite ? 'editor' : 'read'}/${thing.id}`}>{thing.title}</a
                >
                <span class="block truncate text-sm text-ink2">{about(thing)}</span>
              </div>
              {#if thing.page?.kind === 'original'}
                <HandOutIn original={thing} classes={goesTo} />
              {/if}
              {#if data.mayWrite}
                <Menu label="More about {thing.title}">
                  {#snippet button()}<Ellipsis size={18} aria-hidden="true" />{/snippet}
                  <button onclick={() => (noting = thing.id)}>Add a note</button>
                  {#if thing.page?.kind === 'original' && !thing.page.adapts}
                    <FormButton
                      label="Adapt for some students"
                      action="adapt"
                      fields={{ page: thing.id }}
                    />
                  {/if}
                  {#if thing.page && !thing.page.adapts}
                    {@const other = thing.page.kind === 'original' ? 'reading' : 'original'}
                    <FormButton
                      label={other === 'reading' ? 'Make it a reading' : 'Make it an original'}
                      action="kind"
                      fields={{ page: thing.id, kind: other }}
                    />
                  {/if}
                  <FormButton
                    label="Remove"
                    action="away"
                    fields={{
                      thing: thing.id,
                      kind: thing.page ? 'page' : 'rubric',
                      away: 'true',
                    }}
                  />
                </Menu>{/if}
            </div>
            <Notes
              notes={data.notes.filter((note) => note.about === thing.id)}
              about={thing.page ? 'page' : 'rubric'}
              id={thing.id}
              open={noting === thing.id}
              done={() => (noting = '')}
              mayWrite={data.mayWrite}
            />
          </div>
        {/snippet}
        {#snippet foot(unit)}
          {#if unit}
            <Notes
              notes={data.notes.filter((note) => note.about === unit)}
              about="unit"
              id={unit}
              open={noting === unit}
              done={() => (noting = '')}
              mayWrite={data.mayWrite}
            />
          {/if}
          {#if data.mayWrite}
            {@const where = data.units.find(({ id }) => id === unit)?.title}
            <BeginPage {unit} {where} choice={KINDS_OF_PAGE} />
            {#if !unit && clipboard.held}
              <button type="button" class="act act-small ml-8" onclick={() => put(null)}
                >Paste here, in no unit</button
              >
            {/if}
          {/if}
        {/snippet}
      </UnitList>
    </div>

    {#if data.mayWrite}
      <NewUnit>
        <button type="button" class="act act-plain" onclick={() => (noting = data.course.id)}
          >Add a note on the course</button
        >
      </NewUnit>
      <Removed
        moved={data.movedAway}
        gone={data.away.map(({ id, title, kind }) => ({ id, title, fields: { thing: id, kind } }))}
      />
    {/if}
    {#if data.mayShare}
      <p class="mt-6">
        <FormButton
          label="Remove the course"
          action="remove"
          fields={{ away: 'true' }}
          look="act act-small act-plain"
        />
      </p>
    {/if}
  </div>
</main>
