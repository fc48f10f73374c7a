<script lang="ts">
  import type { EditorView } from 'prosemirror-view';
  import type { ThreadView } from '$core/copy/threads';
  import ThreadCard from './ThreadCard.svelte';
  import type { ThreadStore } from './thread-store.svelte';

  interface Props {
    store: ThreadStore;
    view: EditorView | null;
    now: number;
    timeZone: string;
    mayComment?: boolean;
    /** Whether it is this person's copy, and they may write in it now. */
    mayDecide?: boolean;
    mayPropose?: boolean;
    /** Whether one of the staff reads it. */
    isStaff?: boolean;
    /** What one of the staff answers goes to the student when the copy goes back. */
    keptBack?: boolean;
  }
  let {
    store,
    view,
    now,
    timeZone,
    mayComment = true,
    mayDecide = false,
    mayPropose = false,
    isStaff = false,
    keptBack = false,
  }: Props = $props();

  function choose(id: string) {
    store.choose(store.chosen === id ? null : id, view);
    view?.dom
      .querySelector(`[data-thread="${id}"]`)
      ?.scrollIntoView({ block: 'center', behavior: 'smooth' });
  }
</script>

{#snippet card(thread: ThreadView)}
  <ThreadCard
    {thread}
    page={store.page}
    {now}
    {timeZone}
    {mayComment}
    {isStaff}
    chosen={store.chosen === thread.id}
    choose={() => choose(thread.id)}
    say={(said) => store.say(thread.id, { ...said, keptBack }, view)}
    settle={(settled) => store.settle(thread.id, settled, view)}
    change={(instead, text) => store.say(thread.id, { text, keptBack: true, instead }, view)}
    withdraw={(comment) => store.withdrawComment(thread.id, comment, view)}
  />
{/snippet}

{#if store.sentence}<p class="trouble mb-2" role="alert">{store.sentence}</p>{/if}
{#if store.withdrawn}<p class="mb-2 flex items-center gap-3 text-sm text-ink2" role="status">
    <span class="min-w-0 flex-1 truncate">Withdrawn: “{store.withdrawn.text}”</span>
    <button type="button" class="act act-small" onclick={() => store.bringBack(view)}
      >Bring back</button
    >
  </p>{/if}
{#if store.proposals && store.proposals.all.length > 0}{@const { proposals } =
    store}{#await import('../proposals/Proposals.svelte') then { default: Proposals }}<Proposals
      {store}
      {proposals}
      {view}
      {now}
      {timeZone}
      {mayDecide}
      {mayPropose}
    />{:catch}<p class="trouble mb-2">
      The proposals could not be loaded. Please reload this page.
    </p>{/await}{/if}
<div class="space-y-2.5">
  {#each store.open as thread (thread.id)}{@render card(thread)}{/each}
</div>
{#if store.settled.length > 0}
  <details class="mt-3">
    <summary class="cursor-pointer text-sm text-ink2">{store.settled.length} settled</summary>
    <div class="mt-2 space-y-2.5">
      {#each store.settled as thread (thread.id)}{@render card(thread)}{/each}
    </div>
  </details>
{/if}
