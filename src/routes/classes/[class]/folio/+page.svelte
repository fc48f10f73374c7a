<script lang="ts">
  import Ellipsis from '@lucide/svelte/icons/ellipsis';
  import { when } from '$core/calendar/say-time';
  import { counted } from '$core/lists/counted';
  import { enhance } from '$ui/refresh';
  import FormButton from '$ui/shell/FormButton.svelte';
  import Menu from '$ui/shell/Menu.svelte';
  import Cover from './Cover.svelte';

  let { data, form } = $props();
  let renamed: string | null = $state(null);
  const zone = $derived(data.klass.time_zone);
  const shown = $derived(data.pages.filter(({ folio }) => folio === 'shown').length);
  const me = $derived(data.person?.name ?? '');
</script>

{#snippet rename(page: { id: string; title: string })}
  <form
    method="POST"
    action="?/rename"
    class="flex w-full gap-2 py-1"
    use:enhance={() =>
      async ({ update, result }) => {
        await update();
        if (result.type === 'success') renamed = null;
      }}
  >
    <input type="hidden" name="page" value={page.id} />
    <input
      class="field"
      name="title"
      value={page.title}
      aria-label="New title of {page.title}"
      maxlength="300"
      required
    />
    <button class="act">Save</button>
    <button type="button" class="act act-plain" onclick={() => (renamed = null)}>Cancel</button>
  </form>
{/snippet}

<main class="flex-1 overflow-auto px-5 py-6">
  <div class="mx-auto max-w-5xl">
    <div class="flex flex-wrap items-center gap-3">
      <h1 class="flex-1 text-2xl font-bold">My folio</h1>
      <a class="act act-small" href="/classes/{data.klass.id}/workbook">My workbook</a>
      {#if !data.klass.archived}<a class="act act-small" href="/classes/{data.klass.id}/folios"
          >Folios of {data.klass.name}</a
        >{/if}
    </div>
    <p class="text-ink2">
      {data.klass.name}
      {data.klass.title}{data.cover
        ? ` · ${counted(data.pages.length, 'page')}, ${shown} shown`
        : ''}
    </p>
    {#if form?.sentence}<p class="trouble mt-3" role="alert">{form.sentence}</p>{/if}
    {#if !data.cover}
      <div class="notice mt-5 max-w-2xl">
        <p>
          A folio holds pages that you keep all year. It begins with its cover, which your
          classmates see; each page is hidden from them until you show it. Your teachers see all of
          it.
        </p>
        {#if data.mayWrite}<form method="POST" action="?/begin" use:enhance class="mt-3 flex gap-2">
            <input
              class="field"
              name="title"
              placeholder="What is on its cover"
              aria-label="Title of my folio"
              maxlength="300"
              required
            />
            <button class="act act-main">Add cover</button>
          </form>{/if}
      </div>
    {/if}
    <div class="mt-5 grid gap-8 lg:grid-cols-[minmax(0,2fr)_minmax(0,3fr)]">
      {#if data.cover}
        {@const cover = data.cover}
        <div>
          <Cover {cover} by={me} />
          {#if data.mayWrite}<div class="mt-3 flex gap-2">
              <a class="act act-small" href="/read/{cover.id}">Write on the cover</a>
              <button class="act act-small" onclick={() => (renamed = cover.id)}>Rename</button>
            </div>
            {#if renamed === cover.id}{@render rename(cover)}{/if}{/if}
        </div>
      {/if}
      <div>
        <ul aria-label="Pages of my folio">
          {#each data.pages as page, at (page.id)}
            <li class="flex flex-wrap items-center gap-3 border-b border-rule py-2">
              <a
                class="min-w-0 flex-1 font-bold text-ink no-underline hover:text-spruce"
                href="/read/{page.id}"
                ><span class="block truncate">{page.title}</span>
                <span class="block text-sm font-normal text-ink2"
                  >{page.folio === 'shown' ? 'shown to classmates' : 'hidden; your teachers see it'} ·
                  {when(page.changed, data.now, zone)}</span
                ></a
              >
              {#if data.mayWrite}
                <FormButton
                  label={page.folio === 'shown' ? 'Hide' : 'Show'}
                  about={page.title}
                  action="change"
                  fields={{ page: page.id, move: page.folio === 'shown' ? 'hide' : 'show' }}
                  look="act act-small"
                />
                <Menu label="More about {page.title}">
                  {#snippet button()}<Ellipsis size={18} aria-hidden="true" />{/snippet}
                  {#if at > 0}<FormButton
                      label="Move up"
                      action="change"
                      fields={{ page: page.id, move: 'up' }}
                    />{/if}
                  {#if at < data.pages.length - 1}<FormButton
                      label="Move down"
                      action="change"
                      fields={{ page: page.id, move: 'down' }}
                    />{/if}
                  <button onclick={() => (renamed = page.id)}>Rename</button>
                  <FormButton
                    label="Take out of the folio"
                    action="change"
                    fields={{ page: page.id, move: 'take out' }}
                  />
                </Menu>
                {#if renamed === page.id}{@render rename(page)}{/if}
              {/if}
            </li>
          {:else}{#if data.cover}<li class="py-2 text-ink2">No pages yet.</li>{/if}{/each}
        </ul>
        {#if data.mayWrite && data.cover}
          <form method="POST" action="?/begin" use:enhance class="mt-5 flex gap-2">
            <input
              class="field"
              name="title"
              placeholder="A new page"
              aria-label="Title of a new page"
              maxlength="300"
              required
            />
            <button class="act">Add page</button>
          </form>
        {/if}
        {#if data.mayWrite && data.besides.length > 0}
          <details class="mt-5">
            <summary>From my workbook · {data.besides.length}</summary>
            <ul>
              {#each data.besides as page (page.id)}<li class="flex items-center gap-3 py-1">
                  <span class="min-w-0 flex-1 truncate">{page.title}</span>
                  <FormButton
                    label="Add"
                    about={page.title}
                    action="change"
                    fields={{ page: page.id, move: 'add' }}
                    look="act act-small"
                  />
                </li>{/each}
            </ul>
          </details>
        {/if}
      </div>
    </div>
  </div>
</main>
