<script lang="ts">
  import Check from '@lucide/svelte/icons/check';
  import X from '@lucide/svelte/icons/x';
  import type { PartStands } from '$core/board/part-stands';
  import type { SlowPart } from '$core/board/slow-parts';
  import { listed } from '$core/lists/listed';
  import ItemFigures from './ItemFigures.svelte';
  import { refreshOnNews } from '$ui/refresh';
  import ClassViews from '$ui/shell/ClassViews.svelte';

  /** Each reading goes through the logs of all copies: a class that writes does not ask for it with every letter. */
  const EVERY = 5000;

  import OverTime from './OverTime.svelte';

  let { data } = $props();
  const copies = $derived(data.pages.flatMap(({ rows }) => rows.map(({ copy }) => copy)));
  refreshOnNews(
    'uncia:parts',
    (heard) =>
      heard === 'resync' ||
      heard.some(
        (one) =>
          (one.kind === 'written' && copies.includes(one.page)) ||
          (one.kind === 'class' && one.class === data.klass.id),
      ),
    EVERY,
  );

  const LOOKS: Record<PartStands, string> = {
    blank: 'border border-dashed border-rule',
    begun: 'bg-ice-pale border border-ice',
    done: 'bg-ice text-white',
    right: 'bg-spruce text-white',
    wrong: 'bg-rust text-white',
  };
  const shown = $derived(
    (['blank', 'begun', 'done', 'right', 'wrong'] as const).filter(
      (one) => data.marksItself || (one !== 'right' && one !== 'wrong'),
    ),
  );
  type PageParts = (typeof data.pages)[number];
  const finished = ({ rows }: PageParts, part: string) =>
    rows.filter(({ stands }) => !['blank', 'begun'].includes(stands[part] ?? 'blank')).length;
  const has = ({ rows }: PageParts, part: string) =>
    rows.filter(({ stands }) => stands[part] !== undefined).length;
  const minutes = (n: number) => (n < 1 ? 'under a minute' : `${Math.round(n)} min`);
  const share = (n: number) => `${Math.round(n * 100)} %`;
  /** "took half of them 9 min or more, 3 min is usual here" */
  const saySlow = ({ minutes: took, rewritten, usual }: SlowPart) =>
    listed([
      ...(took === null
        ? []
        : [
            `it took half of them ${minutes(took)} or more, where ${minutes(usual.minutes)} is usual`,
          ]),
      ...(rewritten === null
        ? []
        : [
            `half of them took ${share(rewritten)} or more of what they typed away again, where ${share(usual.rewritten)} is usual`,
          ]),
    ]);
</script>

<main class="flex min-h-0 flex-1 flex-col overflow-auto px-5 py-3">
  <div class="flex flex-wrap items-center gap-x-6 gap-y-1">
    <p class="text-lg font-bold">{data.klass.name} {data.klass.title}</p>
    <ClassViews klass={data.klass.id} leads={data.mayChange} archived={data.klass.archived} />
  </div>
  <div class="mt-4 flex flex-wrap items-baseline gap-x-6 gap-y-1">
    <h1 class="text-2xl font-bold">{data.title}: its parts</h1>
    <ul class="flex flex-wrap gap-x-4 text-sm text-ink2" aria-label="What the marks mean">
      {#each shown as one (one)}
        <li class="flex items-center gap-1.5">{@render mark(one)}{one}</li>
      {/each}
    </ul>
  </div>
  {#each data.pages as page (page.id)}
    {#if data.pages.length > 1}<h2 class="mt-5 font-bold">{page.title}</h2>{/if}
    {#each page.slow as slow (slow.part)}
      {@const part = page.parts.find(({ id }) => id === slow.part)}
      <p class="notice mt-3 max-w-3xl py-1.5">
        <strong>Many slow down at {part?.number} · {part?.label}:</strong>
        {saySlow(slow)}.
      </p>
    {/each}
    {#if page.parts.length === 0}
      <p class="mt-3 text-ink2">This page asks for nothing: it has no parts.</p>
    {:else}
      <div
        class="mt-3 w-fit max-w-full shrink-0 overflow-x-auto border border-rule bg-sheet"
        role="region"
        aria-label="Parts of {page.title}"
      >
        <table class="border-separate border-spacing-0">
          <thead>
            <tr>
              <th
                scope="col"
                class="sticky left-0 z-10 min-w-44 border-r border-b border-rule bg-sheet px-2.5 py-2 text-left align-bottom"
                >Student</th
              >
              {#each page.parts as part (part.id)}
                <th
                  scope="col"
                  class={[
                    'max-w-36 min-w-16 border-r border-b border-rule px-2 py-2 text-left align-bottom text-sm font-normal',
                    page.slow.some((one) => one.part === part.id) && 'bg-lamp/15',
                  ]}
                >
                  <strong class="block">{part.number}</strong>
                  <span class="line-clamp-3 wrap-anywhere">{part.label}</span>
                  <span class="block text-ink2"
                    >{finished(page, part.id)} of {has(page, part.id)}</span
                  >
                </th>
              {/each}
            </tr>
          </thead>
          <tbody>
            {#each page.rows as row (row.copy)}
              <tr>
                <th
                  scope="row"
                  class="sticky left-0 z-10 border-r border-b border-rule bg-sheet p-0 text-left font-normal"
                  ><a
                    class="block max-w-72 truncate px-2.5 py-1.5 text-ink no-underline hover:text-spruce"
                    href="/classes/{data.klass.id}/marking/{row.copy}">{row.names.join('; ')}</a
                  ></th
                >
                {#each page.parts as part (part.id)}
                  {@const stands = row.stands[part.id]}
                  <td class="border-r border-b border-rule px-2 py-1">
                    {#if stands}{@render mark(stands)}<span class="sr-only">{stands}</span
                      >{:else}<span class="text-sm text-ink2">not in it</span>{/if}
                  </td>
                {/each}
              </tr>
            {/each}
          </tbody>
        </table>
      </div>
      {#if data.marksItself}<ItemFigures parts={page.parts} rows={page.rows} />{/if}
    {/if}
  {:else}<p class="mt-4 text-ink2">Nobody in {data.klass.name} has it to work on.</p>{/each}
  {#if data.progress}<OverTime progress={data.progress} timeZone={data.klass.time_zone} />{/if}
</main>

{#snippet mark(stands: PartStands)}
  <span
    class={['inline-grid size-5 place-items-center rounded-sm', LOOKS[stands]]}
    aria-hidden="true"
  >
    {#if stands === 'right'}<Check size={14} />{:else if stands === 'wrong'}<X size={14} />{/if}
  </span>
{/snippet}
