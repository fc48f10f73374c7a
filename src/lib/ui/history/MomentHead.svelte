<script lang="ts">
  import type { Node } from 'prosemirror-model';
  import type { PageHistory } from '$core/history/page-history';
  import { partsOf } from '$core/page/parts';
  import Choice from '$ui/fields/Choice.svelte';
  import Pick from '$ui/fields/Pick.svelte';
  import type { Selected } from './DecoratedPage.svelte';
  import type { LookingBack } from './looking-back.svelte';
  import type { Moment } from './moments';
  import type { HistoryWords } from './say-history';

  interface Props {
    back: LookingBack;
    history: PageHistory;
    moment: Moment;
    page: Node;
    words: HistoryWords;
    /** What is selected of the page. */
    selected: Selected | null;
    close: () => void;
  }
  /** Which moment is shown, as what, and what can be done with it. */
  let { back, history, moment, page, words, selected, close }: Props = $props();

  let name = $state('');
  const { pair, version } = $derived(back);
  const isNamed = $derived(history.kept.some((one) => one.version === version));
  const part = $derived(
    selected?.answer ? partsOf(page).find(({ id }) => id === selected.answer) : undefined,
  );
  async function giveName(event: SubmitEvent) {
    event.preventDefault();
    if (await back.giveName(name)) name = '';
  }
</script>

<div class="flex flex-wrap items-center gap-2 border-b border-rule pb-2 text-sm">
  <p class="min-w-0 flex-1 font-bold">
    {#if back.shown !== 'changes'}
      {back.isNow ? 'As it stands now' : `As it stood ${words.moment(moment)}`}
    {:else if back.copy}
      What this copy has that the other has not
    {:else if pair}
      From {words.moment(pair.was)} to {words.moment(pair.is)}
    {/if}
  </p>
  <Choice
    label="What is shown"
    options={[
      ['page', 'The page'],
      ['who', 'Who wrote what'],
      ['changes', 'What changed'],
    ]}
    bind:value={() => back.shown, (shown) => back.choosesWhat(shown)}
  />
  {#if back.shown === 'changes'}
    <div class="w-64">
      <Pick
        label="Compared with"
        quiet
        options={words.choices(back.against)}
        value={back.copy || String(back.against)}
        onchange={(what) => back.compareWith(what)}
      />
    </div>
  {:else if history.mayPutBack && !back.isNow}
    <form class="flex gap-1.5" onsubmit={giveName}>
      <input
        class="field w-44 py-1"
        aria-label="Name of this version"
        placeholder={isNamed ? 'Another name' : 'Name this version'}
        maxlength="100"
        bind:value={name}
      />
      {#if name.trim()}<button class="act act-small" disabled={back.busy}>Save name</button>{/if}
    </form>
    {#if selected && back.shown === 'page'}
      {@const says = part ? `Part ${part.number}` : 'The passage'}
      <button
        class="act act-small act-main"
        disabled={back.busy}
        onmousedown={(event) => event.preventDefault()}
        onclick={() => back.putBack(version, selected, says)}
        >{part ? `Put part ${part.number} back` : 'Put the selected words back'}</button
      >
    {:else}
      <button
        class="act act-small act-main"
        disabled={back.busy}
        onclick={() => back.putBack(version)}>Put this back</button
      >
    {/if}
  {/if}
  <button class="act act-small" onclick={close}>Close</button>
</div>
