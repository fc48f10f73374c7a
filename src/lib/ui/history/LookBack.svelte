<script lang="ts">
  import Pause from '@lucide/svelte/icons/pause';
  import Play from '@lucide/svelte/icons/play';
  import { onMount, untrack } from 'svelte';
  import { SPEEDS } from '$core/history/playing';
  import Choice from '$ui/fields/Choice.svelte';
  import { serverNow } from '$ui/server-time';
  import Changes from './Changes.svelte';
  import DecoratedPage, { type Selected } from './DecoratedPage.svelte';
  import { LookingBack } from './looking-back.svelte';
  import MomentHead from './MomentHead.svelte';
  import { HistoryWords } from './say-history';
  import WhoWrote from './WhoWrote.svelte';
  import WorkLine from './WorkLine.svelte';

  interface Props {
    /** Where its history is asked for: `/pages/…` of a copy, `/editor/…` of an original. */
    at: string;
    /** What has to be saved before the page is put back. */
    flush?: () => Promise<unknown>;
    close: () => void;
  }
  let { at, flush = async () => undefined, close }: Props = $props();

  const back = untrack(() => new LookingBack(at, flush));
  onMount(() => {
    void back.read();
    return () => back.close();
  });
  const { player } = back;
  let selected: Selected | null = $state(null);
  const { history, moment, page, pair, version } = $derived(back);
  const words = $derived(history && new HistoryWords(history, serverNow()));
  const mayPutBack = $derived(history?.mayPutBack ?? false);
</script>

{#if back.trouble}<p class="trouble mt-2" role="alert">{back.trouble}</p>{/if}
{#if history && words}
  <WorkLine
    line={history.line}
    kept={history.kept}
    first={history.first}
    newest={history.version}
    {version}
    ends={back.ends}
    says={words.sitting}
    nameOf={words.nameOf}
    onchange={(version) => back.choose(version)}
    onends={(ends) => back.moveEnds(ends)}
  />
  <div class="mt-1 flex flex-wrap items-center gap-x-3 gap-y-1">
    <p class="min-w-0 flex-1 text-sm text-ink2" aria-live={player.playing ? 'off' : 'polite'}>
      {words.sitting(version)}.
    </p>
    {#if history.version > history.first && back.shown !== 'changes'}
      <button class="act act-small gap-1.5" onclick={() => back.play()}
        >{#if player.playing}<Pause size={15} aria-hidden="true" /> Pause{:else}<Play
            size={15}
            aria-hidden="true"
          /> Play{/if}</button
      >
      <Choice
        label="How fast"
        options={SPEEDS.map((speed) => [String(speed), `${speed}×`] as const)}
        bind:value={() => String(player.speed), (speed) => (player.speed = Number(speed))}
      />
    {/if}
  </div>
  <ul class="mt-2 flex flex-wrap gap-1.5" aria-label="Kept versions">
    {#each history.kept as kept, index (index)}
      <li>
        <button
          class={['act act-small', kept.version === version && 'bg-ice-pale']}
          aria-pressed={kept.version === version}
          onclick={() => back.choose(kept.version)}>{words.kept(kept)}</button
        >
      </li>
    {/each}
    <li>
      <button
        class={['act act-small', back.isNow && 'bg-ice-pale']}
        aria-pressed={back.isNow}
        onclick={() => back.choose(history.version)}>now</button
      >
    </li>
  </ul>
  {#if moment && page}
    <div
      class="mt-3 rounded-lg border border-dashed border-ice p-4"
      aria-busy={moment.version !== version}
    >
      <MomentHead {back} {history} {moment} {page} {words} {selected} {close} />
      {#if back.shown === 'who'}
        <WhoWrote {history} {moment} {page} now={serverNow()} />
      {:else if back.shown === 'page'}
        <div class="mt-3">
          <DecoratedPage {page} label="The page at this moment" bind:selected />
        </div>
        {#if mayPutBack && !back.isNow && !selected}<p class="mt-2 text-sm text-ink2">
            To put back only a part, click into it or select words.
          </p>{/if}
      {:else if pair}
        {@const { was, is } = pair}
        <Changes
          was={was.doc}
          is={is.doc}
          compare={back.maker.compare}
          label="The page, with what changed"
          putBack={mayPutBack && !back.copy
            ? (passage) => void back.putBack(was.version, passage)
            : null}
        />
      {/if}
    </div>
  {/if}
{:else if !back.trouble}
  <p class="mt-2 text-sm text-ink2" role="status">Reading its history …</p>
{/if}
