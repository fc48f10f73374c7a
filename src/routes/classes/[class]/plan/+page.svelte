<script lang="ts">
  import Bar from '$ui/fields/Bar.svelte';
  import BookOpen from '@lucide/svelte/icons/book-open';
  import Ellipsis from '@lucide/svelte/icons/ellipsis';
  import Lock from '@lucide/svelte/icons/lock-keyhole';
  import PencilLine from '@lucide/svelte/icons/pencil-line';
  import { clipboard } from '$ui/plan/clipboard.svelte';
  import Notes from '$ui/plan/Notes.svelte';
  import BeginPage from '$ui/plan/BeginPage.svelte';
  import Removed from '$ui/plan/Removed.svelte';
  import PickedUp from '$ui/plan/PickedUp.svelte';
  import UnitHead from '$ui/plan/UnitHead.svelte';
  import NewUnit from '$ui/plan/NewUnit.svelte';
  import UnitList from '$ui/plan/UnitList.svelte';
  import { aboutClasses, refreshOnNews } from '$ui/refresh';
  import ClassViews from '$ui/shell/ClassViews.svelte';
  import FormButton from '$ui/shell/FormButton.svelte';
  import Menu from '$ui/shell/Menu.svelte';
  import { readLocalTime } from '$core/calendar/local-time';
  import { when } from '$core/calendar/say-time';
  import About from './About.svelte';
  import Opening from './Opening.svelte';

  let { data, form } = $props();
  let trouble = $state('');
  let noting = $state('');
  refreshOnNews(
    'uncia:plan',
    aboutClasses(() => [data.klass.id]),
  );

  interface Thing {
    id: string;
    title: string;
    area: 'shelf' | 'worktable' | 'cupboard' | 'welcome' | null;
  }
  const AREAS = {
    shelf: { title: 'on the shelf: students read it', icon: BookOpen, short: 'To the shelf' },
    worktable: {
      title: 'on the worktable: students write in it together',
      icon: PencilLine,
      short: 'To the worktable',
    },
    cupboard: { title: 'in the cupboard: staff only', icon: Lock, short: 'Into the cupboard' },
  };
  const AREAS_OF_PAGE: { name: string; label: string; values: [string, string][] } = {
    name: 'area',
    label: 'Where the new page lies',
    values: [
      ['shelf', 'on the shelf'],
      ['worktable', 'on the worktable'],
      ['cupboard', 'in the cupboard'],
    ],
  };
  const FOR_STUDENTS = { shelf: 'to read', worktable: 'to write in, together', cupboard: '' };

  const source = $derived(data.plan.staff ?? data.plan.student);
  const units = $derived.by(() => {
    const pages: (Thing & { unit: string | null })[] = (
      data.plan.staff?.pages ??
      data.plan.student?.pages ??
      []
    ).filter(({ area }) => area !== 'welcome');
    const inUnit = (unit: string | null) => pages.filter((page) => page.unit === unit);
    return [
      ...(source?.units ?? []).map((unit) => ({ ...unit, things: inUnit(unit.id) })),
      { id: null, title: '', things: inUnit(null) },
    ];
  });
  const notes = $derived(data.plan.staff?.notes ?? []);
  const draftsIn = (unit: string | null) =>
    (data.plan.staff?.drafts ?? []).filter((draft) => draft.unit === unit);
  function sayDraft({ due, goesOut }: ReturnType<typeof draftsIn>[number]): string {
    const out =
      goesOut === null ? 'draft' : `goes out ${when(goesOut, data.now, data.klass.timeZone)}`;
    const at = due.kind === 'at' ? readLocalTime(due.local, data.klass.timeZone) : null;
    return at === null ? out : `${out}, due ${when(at, data.now, data.klass.timeZone)}`;
  }
  const assignmentsIn = (unit: string | null) =>
    (source?.assignments ?? []).filter((assignment) => assignment.unit === unit);
  const isEmpty = $derived(units.every(({ things }) => things.length === 0) && units.length === 1);
  function sayDue(due: number | null): string {
    if (due === null) return 'no due time';
    return `${due < data.now ? 'was due' : 'due'} ${when(due, data.now, data.klass.timeZone)}`;
  }
  const put = async (unit: string | null) =>
    (trouble = await clipboard.put(`/classes/${data.klass.id}/plan/paste`, unit));
</script>

<div class="flex min-h-0 flex-1 max-lg:flex-col max-lg:overflow-auto">
  <main class="min-w-0 flex-1 overflow-auto px-5 py-3 max-lg:overflow-visible">
    <div class="flex flex-wrap items-center gap-x-6 gap-y-1">
      <h1 class="text-lg font-bold">{data.klass.name} {data.klass.title}</h1>
      {#if !data.isStudent}<ClassViews
          klass={data.klass.id}
          leads={data.mayManage}
          archived={data.klass.archived}
        />{/if}
      <span class="flex-1"></span>
      {#if data.isStudent}<a class="act act-small" href="/classes/{data.klass.id}/workbook"
          >My workbook</a
        ><a class="act act-small" href="/classes/{data.klass.id}/folio">My folio</a><a
          class="act act-small"
          href="/classes/{data.klass.id}/points">My points</a
        >{/if}
      {#if data.mayManage}<a class="act act-small" href="/classes/{data.klass.id}/build"
          >Bring in units</a
        >{/if}
    </div>
    {#if form?.sentence || trouble}<p class="trouble mt-3" role="alert">
        {form?.sentence || trouble}
      </p>{/if}
    {#if form && 'copied' in form && form.copied}<p class="notice mt-3" role="status">
        A copy of “{form.copied.title}” is in the course {form.copied.course} now.
      </p>{/if}
    {#if data.build && data.build.finished_at === null}
      <div class="notice mt-3" role="status">
        <p>
          {data.build.done} of {data.build.total} pages are here.
          {#if data.build.fault}<span class="text-rust">{data.build.fault}</span> What is here stays,
            and the rest can be brought in again.{:else}You can leave; it goes on by itself.{/if}
        </p>
        <div class="mt-2">
          <Bar label="Pages that are here" done={data.build.done} total={data.build.total} />
        </div>
      </div>
    {/if}
    {#if data.mayManage}<PickedUp
        says="Readings go to the shelf, all else into the cupboard."
      />{/if}
    {#if isEmpty && data.mayManage}
      <div class="notice mt-4 max-w-2xl">
        <p class="font-bold">There is nothing in {data.klass.name} yet.</p>
        <p class="mt-1">
          Bring in what you teach from a course or from another class: what you choose, and nothing
          else.
        </p>
        <p class="mt-3">
          <a class="act act-main" href="/classes/{data.klass.id}/build">Bring in units</a>
        </p>
      </div>
    {:else if isEmpty}<p class="mt-4 text-ink2">Nothing lies here yet.</p>{/if}
    <div class="mt-4 max-w-4xl">
      <UnitList
        {units}
        order={data.mayManage ? `/classes/${data.klass.id}/plan/order` : null}
        trouble={(sentence) => (trouble = sentence)}
        noUnit="In no unit"
      >
        {#snippet head(unit)}
          <UnitHead
            {unit}
            mayWrite={data.mayManage}
            {put}
            note={() => (noting = unit.id)}
            stored={source?.units.find(({ id }) => id === unit.id)?.stored}
          />
        {/snippet}
        {#snippet row(thing: Thing)}
          {@const area = thing.area && thing.area !== 'welcome' ? AREAS[thing.area] : AREAS.shelf}
          {@const Icon = area.icon}
          <div
            class="grid min-w-0 flex-1 grid-cols-[minmax(0,1fr)_fit-content(19rem)] gap-x-4 py-2 pr-2 max-lg:grid-cols-1"
          >
            <div class="flex min-w-0 items-center gap-2">
              <Icon size={18} class="shrink-0 text-ink2" aria-hidden="true" />
              <div class="min-w-0 flex-1">
                <a
                  class="block truncate font-bold text-ink no-underline hover:text-spruce"
                  href={data.mayManage ? `/editor/${thing.id}` : `/read/${thing.id}`}
                  >{thing.title}</a
                >
                <span class="block truncate text-sm text-ink2"
                  >{data.isStudent && thing.area && thing.area !== 'welcome'
                    ? FOR_STUDENTS[thing.area]
                    : area.title}</span
                >
              </div>
              {#if data.mayManage}
                <Menu label="More about {thing.title}">
                  {#snippet button()}<Ellipsis size={18} aria-hidden="true" />{/snippet}
                  {#each Object.entries(AREAS) as [name, { short }] (name)}
                    {#if name !== thing.area}<FormButton
                        label={short}
                        action="area"
                        fields={{ page: thing.id, area: name }}
                      />{/if}
                  {/each}
                  <FormButton
                    label="Copy into the course"
                    action="toCourse"
                    fields={{ page: thing.id }}
                  />
                  <button onclick={() => (noting = thing.id)}>Add a note</button>
                  <FormButton
                    label="Remove"
                    action="away"
                    fields={{ thing: thing.id, kind: 'page', away: 'true' }}
                  />
                </Menu>
              {/if}
            </div>
            <Notes
              notes={notes.filter(({ about }) => about === thing.id)}
              about="page"
              id={thing.id}
              open={noting === thing.id}
              done={() => (noting = '')}
              mayWrite={data.mayManage}
            />
          </div>
        {/snippet}
        {#snippet foot(unit)}
          {#each assignmentsIn(unit) as assignment (assignment.to)}
            <div class="flex items-center gap-3 border-b border-rule bg-sheet py-2 pr-3 pl-9">
              <span class="h-4 w-4 shrink-0 rounded-full border-2 border-spruce" aria-hidden="true"
              ></span>
              <a
                class="min-w-0 flex-1 truncate font-bold text-ink no-underline hover:text-spruce"
                href={assignment.to}>{assignment.title}</a
              >
              <span class="text-sm text-ink2">{sayDue(assignment.due)}</span>
            </div>
          {/each}
          {#each draftsIn(unit) as draft (draft.id)}
            <div class="flex items-center gap-3 border-b border-rule bg-sheet py-2 pr-3 pl-9">
              <span
                class="h-4 w-4 shrink-0 rounded-full border-2 border-dashed border-quiet"
                aria-hidden="true"
              ></span>
              {#if data.mayManage}<a
                  class="min-w-0 flex-1 truncate font-bold text-ink no-underline hover:text-spruce"
                  href="/classes/{data.klass.id}/hand-out?draft={draft.id}">{draft.title}</a
                >{:else}<span class="min-w-0 flex-1 truncate font-bold">{draft.title}</span>{/if}
              <span class="text-sm text-ink2">{sayDraft(draft)}</span>
            </div>
          {/each}
          {#if unit}
            <Notes
              notes={notes.filter(({ about }) => about === unit)}
              about="unit"
              id={unit}
              open={noting === unit}
              done={() => (noting = '')}
              mayWrite={data.mayManage}
            />
          {/if}
          {#if data.mayManage && unit}
            {@const where = source?.units.find(({ id }) => id === unit)?.title}
            <BeginPage {unit} {where} choice={AREAS_OF_PAGE} />
          {/if}
        {/snippet}
      </UnitList>
      {#if data.mayManage}
        <NewUnit />
        <Removed
          gone={(data.plan.staff?.away ?? []).map(({ id, title, kind }) => ({
            id,
            title,
            fields: { thing: id, kind },
          }))}
        />
      {/if}
    </div>
  </main>
  <aside
    class="w-84 shrink-0 overflow-auto border-l border-rule bg-sheet px-5 py-4 max-lg:w-full max-lg:border-t max-lg:border-l-0"
    aria-label="About the class"
  >
    {#if data.mayManage}<Opening
        opened={data.opened}
        opens={data.opens}
        now={data.now}
        timeZone={data.klass.timeZone}
        name={data.klass.name}
      />{/if}
    <About
      welcome={data.welcome}
      about={data.about}
      staff={data.staff}
      mayManage={data.mayManage}
      klass={data.klass.id}
      name={data.klass.name}
    />
  </aside>
</div>
