<script lang="ts">
  import { when } from '$core/calendar/say-time';
  import Cover from '../../folio/Cover.svelte';

  let { data } = $props();
</script>

<main class="flex-1 overflow-auto px-5 py-6">
  <div class="mx-auto max-w-5xl">
    <h1 class="text-2xl font-bold">{data.student}’s folio</h1>
    <p class="text-ink2">{data.klass.name} {data.klass.title}</p>
    <div class="mt-5 grid gap-8 lg:grid-cols-[minmax(0,2fr)_minmax(0,3fr)]">
      {#if data.cover}<div>
          <Cover cover={data.cover} by={data.student} />
          <a class="act act-small mt-3" href="/read/{data.cover.id}">Open the cover</a>
        </div>{:else}<p class="notice">It has no cover yet.</p>{/if}
      <ul aria-label="Pages of the folio">
        {#each data.pages as page (page.id)}
          <li class="border-b border-rule py-2">
            <a
              class="block font-bold text-ink no-underline hover:text-spruce"
              href="/read/{page.id}"
              ><span class="block truncate">{page.title}</span>
              <span class="block text-sm font-normal text-ink2"
                >{data.isStaff
                  ? page.folio === 'shown'
                    ? 'shown to classmates · '
                    : 'hidden from classmates · '
                  : ''}{when(page.changed, data.now, data.klass.time_zone)}</span
              ></a
            >
          </li>
        {:else}<li class="py-2 text-ink2">
            {data.isStaff ? 'No pages yet.' : 'Nothing is shown yet.'}
          </li>{/each}
      </ul>
    </div>
  </div>
</main>
