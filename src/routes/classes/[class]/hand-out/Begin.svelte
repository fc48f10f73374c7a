<script lang="ts">
  import { invalidateAll } from '$app/navigation';
  import { send } from '$ui/send';
  import { when } from '$ui/when';
  import type { PageData } from './$types';

  /** Before anything is chosen: what was begun, and what can be begun. */
  let { data }: { data: PageData } = $props();
  let trouble = $state('');
  const here = $derived(`/classes/${data.klass.id}/hand-out`);
  async function drop(id: string) {
    trouble = '';
    try {
      await send(`${here}/${id}`, {}, 'DELETE');
      await invalidateAll();
    } catch (error) {
      trouble = error instanceof Error ? error.message : '';
    }
  }
</script>

<main class="mx-auto w-full max-w-3xl flex-1 overflow-auto px-5 py-5">
  <h1 class="text-2xl font-bold">Hand out in {data.klass.name}</h1>
  {#if trouble}<p class="trouble mt-3" role="alert">{trouble}</p>{/if}
  <div class="mt-4 flex flex-wrap gap-3">
    <a class="act act-main" href="/courses?class={data.klass.id}">Choose an original</a>
    <a class="act" href="{here}?form=done or not">Done or not, without a page</a>
  </div>
  <h2 class="mt-6 font-bold">Not handed out yet · {data.drafts.length}</h2>
  <ul class="mt-1 border border-rule bg-sheet">
    {#each data.drafts as draft (draft.id)}
      <li
        class="flex flex-wrap items-center gap-3 border-b border-rule px-4 py-2.5 last:border-b-0"
      >
        <a
          class="min-w-0 flex-1 font-bold text-ink no-underline hover:text-spruce"
          href="{here}?draft={draft.id}"
          >{draft.wish.title}
          <span class="block text-sm font-normal text-ink2"
            >{draft.goesOut === null
              ? `draft, ${draft.by}, ${when(draft.changed, data.world.now, data.world.timeZone)}`
              : `goes out ${when(draft.goesOut, data.world.now, data.world.timeZone)}`}{draft.fault
              ? ` · ${draft.fault}`
              : ''}</span
          ></a
        >
        <button class="act act-small act-plain" onclick={() => drop(draft.id)}
          >Put away<span class="sr-only"> {draft.wish.title}</span></button
        >
      </li>
    {:else}<li class="px-4 py-2.5 text-ink2">
        Nothing waits. A hand-out can be kept as a draft, or planned for a time.
      </li>{/each}
  </ul>
</main>
