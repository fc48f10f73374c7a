<script lang="ts">
  import { tick } from 'svelte';
  import Sheet from './Sheet.svelte';
  import Search from '@lucide/svelte/icons/search';
  import { goto } from '$app/navigation';

  interface Found {
    kind: 'page' | 'copy' | 'note' | 'person' | 'assignment' | 'comment';
    title: string;
    place: string;
    snippet: { text: string; found: boolean }[];
    to: string;
  }
  const KINDS = {
    page: 'page',
    copy: 'copy',
    note: 'note',
    person: 'person',
    assignment: 'assignment',
    comment: 'comment',
  };

  let shown = $state(false);
  let field: HTMLInputElement | undefined = $state();
  let query = $state('');
  let found = $state<Found[]>([]);
  let at = $state(0);
  let says = $state('');
  let asking: AbortController | null = null;

  function open() {
    shown = true;
    void tick().then(() => field?.select());
  }
  function onkeydown(event: KeyboardEvent) {
    const target = event.target instanceof HTMLElement ? event.target : null;
    if (event.key !== '/' || event.ctrlKey || event.metaKey || event.altKey) return;
    if (target?.closest('input, textarea, select, [contenteditable="true"][aria-readonly="false"]'))
      return;
    event.preventDefault();
    open();
  }
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
    found = read?.found ?? [];
    at = 0;
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
  function choose(event: KeyboardEvent) {
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (step && found.length > 0) {
      event.preventDefault();
      at = (at + step + found.length) % found.length;
      document.getElementById(`found-${at}`)?.scrollIntoView({ block: 'nearest' });
    }
    const one = found[at];
    if (event.key !== 'Enter' || !one) return;
    event.preventDefault();
    shown = false;
    void goto(one.to);
  }
</script>

<svelte:window {onkeydown} />
<button
  class="grid h-9 w-9 place-items-center rounded-lg text-ink2 hover:text-ink"
  aria-label="Find anything"
  aria-keyshortcuts="/"
  onclick={open}><Search size={20} aria-hidden="true" /></button
>
<Sheet bind:open={shown} title="Find anything" bare>
  <input
    class="w-full border-0 border-b border-rule bg-transparent px-5 py-3.5 text-lg"
    type="search"
    bind:this={field}
    bind:value={query}
    oninput={look}
    onkeydown={choose}
    placeholder="Pages, people, notes, comments …"
    aria-label="Find anything"
    role="combobox"
    aria-expanded={found.length > 0}
    aria-controls="found"
    aria-activedescendant={found.length > 0 ? `found-${at}` : undefined}
    maxlength="200"
    autocomplete="off"
  />
  <p class="px-5 py-1.5 text-sm text-ink2" role="status">{says}</p>
  <ul id="found" class="min-h-0 overflow-auto pb-2" role="listbox" aria-label="Found">
    {#each found as one, index (one.kind + one.to + index)}
      <li
        id="found-{index}"
        role="option"
        aria-selected={index === at}
        class={[
          'border-l-3 px-5 py-2',
          index === at ? 'border-l-spruce bg-paper' : 'border-l-transparent',
        ]}
      >
        <a
          href={one.to}
          tabindex="-1"
          class="block text-ink no-underline"
          onclick={() => (shown = false)}
          onmouseenter={() => (at = index)}
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
      </li>
    {/each}
  </ul>
</Sheet>
