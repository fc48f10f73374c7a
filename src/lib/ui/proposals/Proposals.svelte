<script lang="ts">
  import type { EditorView } from 'prosemirror-view';
  import type { ProposalView } from '$core/proposals/proposal';
  import type { ThreadStore } from '../comments/thread-store.svelte';
  import ProposalCard from './ProposalCard.svelte';
  import type { ProposalStore } from './proposal-store.svelte';

  interface Props {
    store: ThreadStore;
    proposals: ProposalStore;
    view: EditorView | null;
    now: number;
    timeZone: string;
    /** Whether it is this person's copy, and they may write in it now. */
    mayDecide: boolean;
    mayPropose: boolean;
  }
  let { store, proposals, view, now, timeZone, mayDecide, mayPropose }: Props = $props();

  const open = $derived(proposals.open);
  /** Those that could be taken, by who made them. */
  const givers = $derived([...new Set(open.map(({ by }) => by))]);
  const standing = $derived(open.filter(({ id }) => proposals.hasPlace(id)));
  const ids = (some: readonly ProposalView[]) => some.map(({ id }) => id);
  const of = (giver: string) => ids(standing.filter(({ by }) => by === giver));

  function choose(id: string) {
    proposals.chosen = proposals.chosen === id ? null : id;
    if (!view) return;
    proposals.redraw(view);
    view.dom
      .querySelector(`[data-proposal="${id}"]`)
      ?.scrollIntoView({ block: 'center', behavior: 'smooth' });
  }
</script>

{#snippet card(proposal: ProposalView)}
  <ProposalCard
    {proposal}
    hasPlace={proposals.hasPlace(proposal.id)}
    chosen={proposals.chosen === proposal.id}
    {now}
    {timeZone}
    choose={() => choose(proposal.id)}
    decide={mayDecide ? (deed) => void store.decide(deed, [proposal.id], view) : null}
    withdraw={mayPropose && proposal.own ? () => void store.withdraw([proposal.id], view) : null}
  />
{/snippet}

<section aria-labelledby="proposals" class="mb-4">
  <h3 id="proposals" class="mb-1.5 text-sm font-bold text-plum">
    Proposals{open.length > 0 ? ` · ${open.length} to decide` : ''}
  </h3>
  <div class="space-y-2">
    {#each open as proposal (proposal.id)}{@render card(proposal)}{/each}
  </div>
  {#if mayDecide && standing.length > 1}
    <div class="mt-2 flex flex-wrap gap-2">
      {#if givers.length > 1}{#each givers as giver (giver)}{#if of(giver).length > 1}<button
              class="act act-small"
              onclick={() => void store.decide('take', of(giver), view)}
              >Take the {of(giver).length} from {giver}</button
            >{/if}{/each}{/if}
      <button class="act act-small" onclick={() => void store.decide('take', ids(standing), view)}
        >Take all {standing.length}</button
      >
      <button class="act act-small" onclick={() => void store.decide('leave', ids(open), view)}
        >Leave all</button
      >
    </div>
  {/if}
  {#if proposals.decided.length > 0}
    <details class="mt-2">
      <summary class="cursor-pointer text-sm text-ink2">{proposals.decided.length} decided</summary>
      <div class="mt-2 space-y-2">
        {#each proposals.decided as proposal (proposal.id)}{@render card(proposal)}{/each}
      </div>
    </details>
  {/if}
</section>
