<script lang="ts">
  import Paperclip from '@lucide/svelte/icons/paperclip';
  import type { Attached } from '$core/attached/attached';
  import { send } from '$ui/send';
  import type { Talk } from './talk';

  interface Props {
    page: string;
    attached: readonly Attached[];
    /** What was handed in earlier. */
    earlier: readonly Attached[];
    /** Whether something can be attached or removed now. */
    writable: boolean;
    now: number;
    timeZone: string;
    /** Reads again how the copy stands. */
    changed: () => void;
    /** What is said about it. */
    talk: Talk;
  }
  /** What a student attached to their copy. What is seldom needed comes when it is. */
  let { page, attached, earlier, writable, now, timeZone, changed, talk }: Props = $props();

  let attaching = $state(false);
  let removed: Attached | null = $state.raw(null);
  let trouble = $state('');

  async function deed(what: () => Promise<unknown>): Promise<boolean> {
    trouble = '';
    try {
      await what();
      changed();
      return true;
    } catch (error) {
      trouble = error instanceof Error ? error.message : '';
      return false;
    }
  }
  async function put(one: Attached, away: boolean) {
    if (await deed(() => send(`/pages/${page}/attached/${one.id}`, { away })))
      removed = away ? one : null;
  }
</script>

{#snippet away()}<p class="trouble mt-2">
    This cannot be shown now, because the server does not answer.
  </p>{/snippet}

<section class="mt-6" aria-label="What is attached">
  {#if attached.length > 0 || attaching}<h2 class="mb-2 font-bold">Attached</h2>{/if}
  {#if attached.length > 0}
    {#await import('./AttachedList.svelte') then { default: AttachedList }}
      <AttachedList
        {page}
        {attached}
        {now}
        {timeZone}
        {talk}
        remove={writable ? (one) => put(one, true) : null}
        lookAgain={(one) => deed(() => send(`/pages/${page}/attached/${one.id}/look`, {}))}
      />
    {:catch}{@render away()}{/await}
  {/if}
  {#if earlier.length > 0}{#await import('./Earlier.svelte') then { default: Earlier }}
      <Earlier {page} {earlier} {now} {timeZone} />
    {:catch}{@render away()}{/await}{/if}
  {#if removed}
    <p class="notice mt-2 flex items-center gap-3 py-1.5" role="status">
      <span class="flex-1 wrap-anywhere">“{removed.name}” is removed.</span>
      <button class="act act-small" onclick={() => removed && put(removed, false)}
        >Undo<span class="sr-only"> removing {removed.name}</span></button
      >
    </p>
  {/if}
  {#if trouble}<p class="trouble mt-2" role="alert">{trouble}</p>{/if}
  {#if writable && attaching}
    {#await import('./AttachForm.svelte') then { default: AttachForm }}
      <AttachForm {page} {changed} />
    {:catch}{@render away()}{/await}
  {:else if writable}
    <button class="act act-small mt-2" onclick={() => (attaching = true)}
      ><Paperclip size={16} aria-hidden="true" /> Attach a file or a link …</button
    >
  {/if}
</section>
