<script lang="ts">
  import { counted } from '$core/lists/counted';
  import { listed } from '$core/lists/listed';
  import ClassViews from '$ui/shell/ClassViews.svelte';

  let { data } = $props();

  /** So many of those who have a passage are named. */
  const MOST_NAMES = 4;
  type Passage = (typeof data.passages)[number];
  const whoOf = ({ copies }: Passage) => {
    const names = copies.map(({ name }) => name);
    const more = names.length - MOST_NAMES;
    return listed(more > 0 ? [...names.slice(0, MOST_NAMES), `${more} more`] : names);
  };
  const linkTo = (index: number, one = '', other = '') => `?passage=${index}&of=${one}&of=${other}`;
  const shown = $derived(data.beside && data.passages[data.shown]);
</script>

<main class="flex min-h-0 flex-1 flex-col overflow-auto px-5 py-3">
  <div class="flex flex-wrap items-center gap-x-6 gap-y-1">
    <p class="text-lg font-bold">{data.klass.name} {data.klass.title}</p>
    <ClassViews klass={data.klass.id} leads={data.leads} archived={data.klass.archived} />
  </div>
  <h1 class="mt-4 text-2xl font-bold">{data.title}: shared passages</h1>
  <p class="max-w-3xl text-ink2">
    What stands alike in several copies and not in the original, from about eight words on. Signs,
    spaces and capitals do not count. It says nothing about who had it first, or from where: a
    quotation is shared, too.
  </p>
  {#if data.passages.length === 0}
    <p class="notice mt-4 max-w-3xl">
      {data.copies === 0
        ? 'There are no copies of it here.'
        : `No two of the ${data.copies} copies share a passage.`}
    </p>
  {:else}
    <div class="mt-4 flex min-h-0 flex-1 items-start gap-5 max-lg:flex-col">
      <ul
        class="max-h-full shrink-0 overflow-auto border border-rule bg-sheet max-lg:max-h-72 lg:w-80"
        aria-label="Shared passages"
      >
        {#each data.passages as passage, index (index)}
          <li class="border-b border-rule last:border-b-0">
            <a
              href={linkTo(index, passage.copies[0]?.copy, passage.copies[1]?.copy)}
              aria-current={passage === shown ? 'true' : undefined}
              data-sveltekit-noscroll
              class={[
                'block border-l-3 px-3 py-2 text-ink no-underline',
                passage === shown ? 'border-ice bg-ice-pale' : 'border-transparent hover:bg-paper',
              ]}
            >
              <span class="line-clamp-2 font-page text-sm wrap-anywhere">“{passage.text}”</span>
              <span class="mt-0.5 block text-sm text-ink2"
                >{counted(passage.copies.length, 'copy', 'copies')}, {passage.letters} letters: {whoOf(
                  passage,
                )}</span
              >
            </a>
          </li>
        {/each}
      </ul>
      {#if data.beside && shown}
        {@const { one, other, passages } = data.beside}
        <div class="flex max-h-full min-w-0 flex-1 flex-col gap-2 max-lg:w-full">
          {#if shown.copies.length > 2}
            <p class="flex flex-wrap items-center gap-1.5 text-sm">
              <span class="text-ink2">Beside {one.name}:</span>
              {#each shown.copies.filter(({ copy }) => copy !== one.copy) as { copy, name } (copy)}
                <a
                  class={['act act-small', copy === other.copy && 'border-ice bg-ice-pale']}
                  aria-current={copy === other.copy ? 'true' : undefined}
                  data-sveltekit-noscroll
                  href={linkTo(data.shown, one.copy, copy)}>{name}</a
                >
              {/each}
            </p>
          {/if}
          <div class="grid min-h-0 flex-1 gap-4 md:grid-cols-2">
            {#await import('./SideBySide.svelte') then { default: SideBySide }}
              {#each [{ side: one, places: passages.map((passage) => passage.one) }, { side: other, places: passages.map((passage) => passage.other) }] as { side, places } (side.copy)}
                <section aria-label={side.name} class="flex min-h-0 min-w-0 flex-col">
                  <h2 class="mb-1.5 flex flex-wrap items-baseline gap-x-3 font-bold">
                    {side.name}
                    <a
                      class="text-sm font-normal text-ink2"
                      href="/classes/{data.klass.id}/marking/{side.copy}#how-written"
                      >How it was written</a
                    >
                  </h2>
                  <SideBySide doc={side.doc} {places} label="{side.name}’s copy" />
                </section>
              {/each}
            {/await}
          </div>
        </div>
      {:else}
        <p class="notice">Choose a passage, and see it side by side in two of its copies.</p>
      {/if}
    </div>
  {/if}
</main>
