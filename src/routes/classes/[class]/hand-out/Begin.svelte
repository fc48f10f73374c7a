<script lang="ts">
  import BookOpen from '@lucide/svelte/icons/book-open';
  import FilePen from '@lucide/svelte/icons/file-pen-line';

  import { send } from '$ui/send';
  import { when } from '$core/calendar/say-time';
  import { readAgain } from '$ui/refresh';
  import type { PageData } from './$types';

  /** Before anything is chosen: what was begun, and what can be begun. */
  let { data }: { data: PageData } = $props();
  let trouble = $state('');
  const pages = $derived(
    data.world.materials.filter(
      ({ courseId, offered }) => courseId === data.klass.course_id && offered,
    ),
  );
  const own = $derived(
    data.world.materials.filter(({ courseId, offered }) => courseId === null && offered),
  );
  const here = $derived(`/classes/${data.klass.id}/hand-out`);
  async function drop(id: string) {
    trouble = '';
    try {
      await send(`${here}/${id}`, {}, 'DELETE');
      await readAgain();
    } catch (error) {
      trouble = error instanceof Error ? error.message : '';
    }
  }
</script>

{#snippet row(page: PageData['world']['materials'][number])}
  <li class="border-b border-rule last:border-b-0">
    <a
      class="flex items-center gap-3 px-4 py-2.5 text-ink no-underline hover:text-spruce"
      href="{here}?original={page.id}"
    >
      {#if page.kind === 'reading'}<BookOpen
          size={18}
          class="shrink-0 text-ink2"
          aria-hidden="true"
        />{:else}<FilePen size={18} class="shrink-0 text-ink2" aria-hidden="true" />{/if}
      <span class="min-w-0 flex-1 truncate font-bold">{page.title}</span>
      <span class="text-sm text-ink2"
        >{page.kind}{data.handedOut.includes(page.id) ? ', handed out here' : ''}</span
      >
    </a>
  </li>
{/snippet}

<main class="mx-auto w-full max-w-3xl flex-1 overflow-auto px-5 py-5">
  <h1 class="text-2xl font-bold">Hand out in {data.klass.name}</h1>
  {#if trouble}<p class="trouble mt-3" role="alert">{trouble}</p>{/if}
  <div class="mt-4 flex flex-wrap gap-3">
    <a class="act" href="{here}?form=done or not">Done or not, without a page</a>
    <a class="act" href="/courses?class={data.klass.id}">From another course …</a>
  </div>
  {#if data.drafts.length > 0}
    <h2 class="mt-6 font-bold">Not handed out yet · {data.drafts.length}</h2>
    <ul class="mt-1 border border-rule bg-sheet">
      {#each data.drafts as draft (draft.id)}
        <li
          class="flex flex-wrap items-center gap-3 border-b border-rule px-4 py-2.5 last:border-b-0"
        >
          <a
            class="min-w-0 flex-1 font-bold text-ink no-underline hover:text-spruce"
            href="{here}?draft={draft.id}"
            >{draft.spec.title}
            <span class="block text-sm font-normal text-ink2"
              >{draft.goesOut === null
                ? `draft, ${draft.by}, ${when(draft.changed, data.world.now, data.world.timeZone)}`
                : `goes out ${when(draft.goesOut, data.world.now, data.world.timeZone)}`}{draft.fault
                ? ` · ${draft.fault}`
                : ''}</span
            ></a
          >
          <button class="act act-small act-plain" onclick={() => drop(draft.id)}
            >Delete<span class="sr-only"> {draft.spec.title}</span></button
          >
        </li>
      {/each}
    </ul>
  {/if}
  {#if own.length > 0}
    <h2 class="mt-6 font-bold">From the shelf and the cupboard of {data.klass.name}</h2>
    <ul class="mt-1 border border-rule bg-sheet">
      {#each own as page (page.id)}{@render row(page)}{/each}
    </ul>
  {/if}
  <h2 class="mt-6 font-bold">From {data.klass.title}</h2>
  <ul class="mt-1 border border-rule bg-sheet">
    {#each pages as page (page.id)}{@render row(page)}{:else}<li class="px-4 py-2.5 text-ink2">
        No page in this course yet. <a href="/courses/{data.klass.course_id}">Write one there</a>,
        or take one from another course.
      </li>{/each}
  </ul>
</main>
