<script lang="ts">
  import { fillBlanks, type Blanks, type Phrase } from '$core/phrasebook/phrase';
  import { fetchJson, send } from '../send';
  import { confirmDone } from '../shell/toasts.svelte';

  interface Props {
    text: string;
    id: string;
    blanks: Blanks;
    /** It is to be sent. */
    submit: () => void;
    field?: HTMLTextAreaElement;
  }
  let { text = $bindable(), id, blanks, submit, field = $bindable() }: Props = $props();

  let phrases: Phrase[] = $state.raw([]);
  /** Looks for phrases; comes when somebody begins to type. */
  let find = $state.raw<((phrases: readonly Phrase[], typed: string) => Phrase[]) | null>(null);
  let sentence = $state('');
  /** What was chosen last is not offered again at once. */
  let chosen = $state('');
  const FEWEST = 2;
  const found = $derived(
    find && text.trim().length >= FEWEST && text !== chosen ? find(phrases, text) : [],
  );

  async function load() {
    if (find) return;
    try {
      const [core, kept] = await Promise.all([
        import('$core/phrasebook/phrase'),
        fetchJson<Phrase[]>('/phrasebook/phrases'),
      ]);
      phrases = kept;
      find = core.findPhrases;
    } catch {
      // One writes by oneself then.
    }
  }

  function pick(phrase: Phrase) {
    chosen = text = fillBlanks(phrase.text, blanks);
    field?.focus();
    phrases = phrases.map((one) => (one.id === phrase.id ? { ...one, used: one.used + 1 } : one));
    void send('/phrasebook/phrases', { used: phrase.id }).catch(() => undefined);
  }

  async function saveAsPhrase() {
    if (!text.trim()) return;
    try {
      await send('/phrasebook/phrases', { text });
      confirmDone('Saved in your phrasebook.');
      sentence = '';
      if (!phrases.some((one) => one.text === text.trim()))
        phrases = [...phrases, { id: '', text: text.trim(), used: 0 }];
    } catch (error) {
      sentence = error instanceof Error ? error.message : '';
    }
  }

  function keys(event: KeyboardEvent) {
    if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) {
      event.preventDefault();
      submit();
    } else if (event.altKey && event.code === 'KeyP') {
      event.preventDefault();
      void saveAsPhrase();
    } else if (event.key === 'ArrowDown' && found.length > 0 && list) {
      event.preventDefault();
      list.querySelector('button')?.focus();
    }
  }
  let list: HTMLElement | undefined = $state();
  /** From phrase to phrase, and back to the field. */
  function along(event: KeyboardEvent) {
    const here = document.activeElement?.closest('li');
    const by = { ArrowDown: 'nextElementSibling', ArrowUp: 'previousElementSibling' } as const;
    if (event.key === 'Escape') field?.focus();
    else if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      const next = here?.[by[event.key]]?.querySelector('button');
      (next ?? (event.key === 'ArrowUp' ? field : null))?.focus();
    } else return;
    event.preventDefault();
  }
</script>

<textarea
  {id}
  class="field"
  rows="2"
  bind:this={field}
  bind:value={text}
  onfocus={load}
  onkeydown={keys}
  placeholder="Comment, or a few letters of one from your phrasebook"></textarea>
{#if sentence}<p class="trouble mt-1" role="alert">{sentence}</p>{/if}
{#if found.length > 0}
  <ul
    class="mt-1 overflow-hidden rounded-lg border border-rule"
    aria-label="From your phrasebook"
    bind:this={list}
  >
    {#each found as phrase (phrase.text)}
      <li class="border-b border-rule last:border-b-0">
        <button
          type="button"
          class="block w-full truncate px-3 py-1.5 text-left text-sm hover:bg-paper focus-visible:bg-ice-pale"
          onclick={() => pick(phrase)}
          onkeydown={along}>{fillBlanks(phrase.text, blanks)}</button
        >
      </li>
    {/each}
  </ul>
{/if}
