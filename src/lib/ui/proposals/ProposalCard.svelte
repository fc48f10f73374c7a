<script lang="ts">
  import { when } from '$core/calendar/say-time';
  import type { ProposalView } from '$core/proposals/proposal';
  import { sayProposal, sayState } from '$core/proposals/say-proposal';

  interface Props {
    proposal: ProposalView;
    /** Whether its words stand in the page as they stood when it was made. */
    hasPlace: boolean;
    chosen: boolean;
    now: number;
    timeZone: string;
    choose: () => void;
    /** For its student. */
    decide: ((deed: 'take' | 'leave' | 'open again' | 'undo') => void) | null;
    /** For who made it. */
    withdraw: (() => void) | null;
  }
  let { proposal, hasPlace, chosen, now, timeZone, choose, decide, withdraw }: Props = $props();

  const said = $derived(sayProposal(proposal));
  const isOpen = $derived(proposal.state === 'open');
  const by = $derived(proposal.decided?.own ? 'you' : (proposal.decided?.by ?? ''));
</script>

<article
  id="proposal-{proposal.id}"
  class={[
    'rounded-lg border border-l-4 border-rule border-l-plum bg-sheet px-3.5 py-2',
    chosen && 'bg-plum-pale',
  ]}
  aria-label="Proposal: {said.before}{said.words ?? ''}{said.after}"
>
  <button class="block w-full text-left break-words" onclick={choose} aria-pressed={chosen}>
    {said.before}<strong>{said.words}</strong>{said.after}
    <span class="block text-xs text-ink2">
      {isOpen
        ? `${proposal.own ? 'you propose' : `${proposal.by} proposes`}, ${when(proposal.at, now, timeZone)}`
        : `${proposal.own ? 'proposed by you' : `from ${proposal.by}`} · ${sayState(proposal.state, by)} ${proposal.decided ? when(proposal.decided.at, now, timeZone) : ''}`}
    </span>
  </button>
  {#if proposal.keptBack}<p class="text-xs text-ink2">
      goes with the copy when it is handed back
    </p>{/if}
  {#if isOpen && !hasPlace}<p class="mt-1 text-sm text-ink2">
      Its words have changed since, so it has no place in the page any more.
    </p>{/if}
  {#if decide}
    <div class="mt-1.5 flex gap-2">
      {#if isOpen}
        {#if hasPlace}<button class="act act-small act-main" onclick={() => decide('take')}
            >Take</button
          >{/if}
        <button class="act act-small" onclick={() => decide('leave')}>Leave</button>
      {:else if proposal.state === 'taken'}
        <button class="act act-small act-plain" onclick={() => decide('undo')}>Undo</button>
      {:else if proposal.state === 'left'}
        <button class="act act-small act-plain" onclick={() => decide('open again')}
          >Open again</button
        >
      {/if}
    </div>
  {:else if withdraw && isOpen}
    <p class="-mt-1 text-right">
      <button class="act act-small act-plain" onclick={withdraw}>Withdraw</button>
    </p>
  {/if}
</article>
