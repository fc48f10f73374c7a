<script lang="ts">
  import type { Snippet } from 'svelte';
  import { flagsOf, stateOf, sayState } from '$core/copy/state';
  import Rosette from '$ui/copy/Rosette.svelte';
  import { enhance, followCopies } from '$ui/refresh';
  import FormButton from '$ui/shell/FormButton.svelte';
  import { when } from '$core/calendar/say-time';
  import type { viewWorkbook } from '$server/copy/workbook';

  type Workbook = Omit<Awaited<ReturnType<typeof viewWorkbook>>, 'story'>;

  interface Props {
    data: Workbook & { own: boolean; mayWrite: boolean };
    /** Who looks. */
    me: string;
    sentence: string | undefined;
    children?: Snippet;
  }
  let { data, me, sentence, children }: Props = $props();
  let copies: readonly (typeof data.copies)[number][] = $derived(data.copies);
  followCopies('uncia:work', {
    classes: () => [data.klass.id],
    me: () => me,
    copies: () => copies,
    patch: (next) => (copies = next),
  });

  const zone = $derived(data.klass.time_zone);
  const units = $derived(
    [...data.units, { id: null, title: 'In no unit' }]
      .map((unit) => ({
        ...unit,
        copies: copies.filter((copy) => copy.unit === unit.id),
        pages: data.pages.filter((page) => page.unit === unit.id && !page.away),
      }))
      .filter(({ copies, pages }) => copies.length + pages.length > 0),
  );
  const away = $derived(data.pages.filter((page) => page.away));
</script>

<main class="mx-auto w-full max-w-3xl flex-1 overflow-auto px-5 py-6">
  <h1 class="text-2xl font-bold">
    {data.own ? 'My workbook' : `${data.student.given} ${data.student.family}’s workbook`}
  </h1>
  <p class="text-ink2">
    {data.klass.name}
    {data.klass.title} ·
    <a href="/classes/{data.klass.id}/{data.own ? 'folio' : `folios/${data.student.id}`}">Folio</a>
  </p>
  {#if sentence}<p class="trouble mt-3" role="alert">{sentence}</p>{/if}
  {#each units as unit (unit.id)}
    <h2 class="mt-6 border-b-2 border-ink pb-1 font-bold">{unit.title}</h2>
    <ul>
      {#each unit.copies as copy (copy.id)}
        {@const state = stateOf(copy.facts)}
        {@const flags = flagsOf(copy.facts, data.now)}
        <li>
          <a
            class="flex items-center gap-3 border-b border-rule py-2 text-ink no-underline hover:text-spruce"
            href={data.own ? `/work/${copy.id}` : `/classes/${data.klass.id}/marking/${copy.id}`}
          >
            <Rosette mask={copy.mask} {state} {flags} points={copy.points} size={26} />
            <span class="min-w-0 flex-1 truncate font-bold">{copy.title}</span>
            <span class="text-sm text-ink2"
              >{copy.replaced
                ? 'kept to read'
                : copy.delivery === 'to read'
                  ? 'to read'
                  : sayState(state, flags, copy.mask)}</span
            >
          </a>
        </li>
      {/each}
      {#each unit.pages as page (page.id)}
        <li class="flex items-center gap-3 border-b border-rule py-2">
          <a
            class="min-w-0 flex-1 truncate font-bold text-ink no-underline hover:text-spruce"
            href="/read/{page.id}"
            >{page.title}
            <span class="block text-sm font-normal text-ink2"
              >{data.own ? 'my own page' : 'own page'}, {when(page.changed, data.now, zone)}</span
            ></a
          >
          {#if data.mayWrite}<FormButton
              label="Remove"
              action="away"
              fields={{ page: page.id, away: 'true' }}
            />{/if}
        </li>
      {/each}
    </ul>
  {:else}<p class="notice mt-4">Nothing is in it yet.</p>{/each}
  {#if data.own && data.klass.archived}<p class="mt-6">
      <a class="act" href="/classes/{data.klass.id}/points">My points</a>
    </p>{/if}
  {#if data.mayWrite}
    <form method="POST" action="?/begin" use:enhance class="mt-6 flex gap-2">
      <input
        class="field"
        name="title"
        placeholder="A page of my own"
        aria-label="Title of a page of my own"
        maxlength="300"
        required
      />
      <button class="act">Add page</button>
    </form>
    {#if away.length > 0}
      <details class="mt-4">
        <summary>Removed · {away.length}</summary>
        <ul>
          {#each away as page (page.id)}<li class="flex items-center gap-3 py-1">
              <span class="flex-1">{page.title}</span>
              <FormButton label="Restore" action="away" fields={{ page: page.id, away: 'false' }} />
            </li>{/each}
        </ul>
      </details>
    {/if}
  {/if}
  {@render children?.()}
</main>
