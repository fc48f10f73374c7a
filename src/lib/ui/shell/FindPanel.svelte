<script lang="ts">
  import { Listbox, useListCollection } from '@skeletonlabs/skeleton-svelte';
  import { onMount } from 'svelte';
  import { goto } from '$app/navigation';

  interface Found {
    kind: keyof typeof KINDS;
    title: string;
    place: string;
    snippet: { text: string; found: boolean }[];
    to: string;
    /** Its place in what was found. */
    id: string;
  }
  const KINDS = {
    page: 'page',
    copy: 'copy',
    note: 'note',
    person: 'person',
    assignment: 'assignment',
    comment: 'comment',
    rubric: 'rubric',
    code: 'code',
  };

  let { close }: { close: () => void } = $props();
  let field: HTMLInputElement | undefined = $state();
  let query = $state('');
  let found = $state<Found[]>([]);
  let at = $state<string | null>(null);
  let says = $state('');
  let asking: AbortController | null = null;

  onMount(() => field?.focus());

  async function look() {
    // An answer that comes after a newer question is not shown.
    asking?.abort();
    asking = new AbortController();
    const { signal } = asking;
    const answer = await fetch(`/find?q=${encodeURIComponent(query)}`, { signal }).catch(
      () => null,
    );
    if (signal.aborted) return;
    const read = answer?.ok ? await answer.json().catch(() => null) : null;
    if (signal.aborted) return;
    found = (read?.found ?? []).map((one: Omit<Found, 'id'>, index: number) => ({
      ...one,
      id: String(index),
    }));
    at = found[0]?.id ?? null;
    says = !read
      ? 'The server does not answer. Please try again.'
      : query.trim() === ''
        ? ''
        : found.length === 0
          ? 'Nothing found.'
          : found.length === 1
            ? '1 found'
            : `${found.length} found`;
  }
  function go(chosen: string | undefined) {
    const one = found.find((other) => other.id === chosen);
    if (!one) return;
    close();
    void goto(one.to);
  }
</script>

<Listbox
  class="flex min-h-0 flex-col"
  collection={useListCollection({
    items: found,
    itemToValue: ({ id }) => id,
    itemToString: ({ title }) => title,
  })}
  value={[]}
  highlightedValue={at}
  onHighlightChange={({ highlightedValue }) => (at = highlightedValue)}
  onValueChange={({ value }) => go(value[0])}
  loopFocus
>
  <Listbox.Label class="sr-only">Found</Listbox.Label>
  <Listbox.Input>
    {#snippet element(attributes)}
      <input
        {...attributes}
        class="w-full border-0 border-b border-rule bg-transparent px-5 py-3.5 text-lg"
        type="search"
        bind:this={field}
        bind:value={query}
        oninput={look}
        placeholder="Pages, people, notes, comments …"
        aria-label="Find anything"
        role="combobox"
        aria-expanded={found.length > 0}
        maxlength="200"
      />
    {/snippet}
  </Listbox.Input>
  <p class="px-5 py-1.5 text-sm text-ink2" role="status">{says}</p>
  <Listbox.Content class="min-h-0 overflow-auto pb-2 outline-none">
    {#each found as one (one.id)}
      <Listbox.Item item={one} highlightOnHover>
        {#snippet element(attributes)}
          <a
            {...attributes as object}
            href={one.to}
            tabindex="-1"
            class={[
              'block border-l-3 px-5 py-2 text-ink no-underline',
              one.id === at ? 'border-l-spruce bg-paper' : 'border-l-transparent',
            ]}
          >
            <span class="flex items-baseline gap-3">
              <strong class="min-w-0 flex-1 truncate">{one.title}</strong>
              <span class="text-sm text-ink2">{KINDS[one.kind]} · {one.place}</span>
            </span>
            {#if one.snippet.length > 0}
              <span class="block text-sm text-ink2"
                >{#each one.snippet as piece, i (i)}{#if piece.found}<mark
                      class="bg-lamp-pale text-ink">{piece.text}</mark
                    >{:else}{piece.text}{/if}{/each}</span
              >
            {/if}
          </a>
        {/snippet}
      </Listbox.Item>
    {/each}
  </Listbox.Content>
</Listbox>
