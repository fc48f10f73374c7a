<script lang="ts">
  import type { EditorView } from 'prosemirror-view';
  import type { PageSession } from './page-session.svelte';
  import { send } from '../send';
  import { confirmDone } from '../shell/toasts.svelte';

  let { session, view }: { session: PageSession; view: EditorView | null } = $props();

  /** Words of one client in a row read as one. */
  const groups = $derived(
    session.setAside.reduce<{ client: string; numbers: number[]; words: string }[]>(
      (all, entry) => {
        const last = all.at(-1);
        if (last?.client === entry.client) {
          last.numbers.push(entry.no);
          last.words += entry.words;
        } else all.push({ client: entry.client, numbers: [entry.no], words: entry.words });
        return all;
      },
      [],
    ),
  );

  /** Of long words so many characters are shown; all of them can be copied. */
  const SHOWN = 300;
  async function copy(words: string) {
    const done = await navigator.clipboard.writeText(words).then(
      () => true,
      () => false,
    );
    hint = done ? '' : 'This browser does not let it be copied.';
    if (done) void confirmDone('Copied.');
  }
  let hint = $state('');
  async function putBack(words: string, done: () => Promise<void>) {
    if (!view) return;
    const before = view.state.doc;
    view.dispatch(view.state.tr.insertText(words).scrollIntoView());
    hint = view.state.doc === before ? 'Please put the cursor where you can write first.' : '';
    if (hint) return;
    await session.flush();
    await done();
  }
  async function settle(group: (typeof groups)[number]) {
    const settled = { client: group.client, numbers: group.numbers };
    session.setAside = await send(`/pages/${session.page}/set-aside`, settled);
  }
</script>

{#snippet wordsWithWays(words: string, done: () => Promise<void>)}
  <div class="mt-2 flex flex-wrap items-center gap-2">
    <q class="min-w-0 font-page wrap-anywhere"
      >{words.slice(0, SHOWN)}{words.length > SHOWN ? ' …' : ''}</q
    >
    {#if words.length > SHOWN}<span class="text-sm text-ink2"
        >{words.length.toLocaleString('en')} characters in all</span
      ><button class="act act-small" onclick={() => copy(words)}>Copy</button>{/if}
    <button class="act act-small" onclick={() => putBack(words, done)}>Insert at the cursor</button>
    <button class="act act-small act-plain" onclick={done}>Discard</button>
  </div>
{/snippet}

<section class="notice mt-3" aria-label="Words set aside">
  {#if groups.length > 0}
    <p>Somebody removed the place where you were typing. Your words are kept:</p>
    {#each groups as group (`${group.client} ${group.numbers[0]}`)}
      {@render wordsWithWays(group.words, () => settle(group))}
    {/each}
  {/if}
  {#if session.kept.length > 0}
    <p>This could not be added to the page. It is kept in this browser:</p>
    {#each session.kept as { key, words } (key)}
      {@render wordsWithWays(words, () => session.forget(key))}
    {/each}
  {/if}
  {#if hint}<p class="mt-2 text-rust" role="alert">{hint}</p>{/if}
</section>
