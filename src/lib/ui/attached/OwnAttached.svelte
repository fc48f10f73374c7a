<script lang="ts">
  import { untrack } from 'svelte';
  import type { Attached } from '$core/attached/attached';
  import { saySize } from '$core/attached/shown-as';
  import Bar from '$ui/fields/Bar.svelte';
  import FileField from '$ui/fields/FileField.svelte';
  import { send } from '$ui/send';
  import AttachedList from './AttachedList.svelte';
  import { Uploads } from './uploads.svelte';

  interface Props {
    page: string;
    attached: readonly Attached[];
    /** Whether something can be attached or removed now. */
    writable: boolean;
    now: number;
    timeZone: string;
    /** Reads again how the copy stands. */
    changed: () => void;
  }
  /** What a student attaches to their copy: files made elsewhere. */
  let { page, attached, writable, now, timeZone, changed }: Props = $props();

  const uploads = untrack(() => new Uploads(page, () => changed()));
  let removed: Attached | null = $state.raw(null);
  let trouble = $state('');

  async function put(one: Attached, away: boolean) {
    trouble = '';
    try {
      await send(`/pages/${page}/attached/${one.id}`, { away });
      removed = away ? one : null;
      changed();
    } catch (error) {
      trouble = error instanceof Error ? error.message : '';
    }
  }
</script>

<svelte:window onbeforeunload={(event) => uploads.underway.length > 0 && event.preventDefault()} />

<section class="mt-6" aria-labelledby="attached">
  <h2 id="attached" class="font-bold">Attached</h2>
  {#if attached.length > 0}
    <div class="mt-2">
      <AttachedList
        {page}
        {attached}
        {now}
        {timeZone}
        remove={writable ? (one) => put(one, true) : null}
      />
    </div>
  {/if}
  {#if removed}
    <p class="notice mt-2 flex items-center gap-3 py-1.5" role="status">
      <span class="flex-1 wrap-anywhere">“{removed.name}” is removed.</span>
      <button class="act act-small" onclick={() => removed && put(removed, false)}
        >Undo<span class="sr-only"> removing {removed.name}</span></button
      >
    </p>
  {/if}
  {#if trouble}<p class="trouble mt-2" role="alert">{trouble}</p>{/if}
  {#each uploads.underway as one (one)}
    <div class="mt-2 border border-rule px-3 py-2">
      <p class="flex flex-wrap items-center gap-3">
        <span class="min-w-40 flex-1 wrap-anywhere">{one.name}</span>
        <span class="text-sm text-ink2" role="status"
          >{one.waits
            ? 'waits for the network, and goes on by itself'
            : `${saySize(one.sent)} of ${saySize(one.size)}`}</span
        >
        {#if one.trouble}<button class="act act-small" onclick={() => uploads.again(one)}
            >Try again</button
          >{/if}
        <button class="act act-small act-plain" onclick={() => uploads.cancel(one)}
          >Cancel<span class="sr-only"> {one.name}</span></button
        >
      </p>
      {#if one.trouble}<p class="trouble mt-2" role="alert">{one.trouble}</p>{:else}
        <div class="mt-1.5"><Bar label={one.name} done={one.sent} total={one.size} /></div>
      {/if}
    </div>
  {/each}
  {#if writable}
    <div class="mt-2 max-w-md">
      <FileField
        label="Attach files"
        accept={[]}
        multiple
        onfiles={(files) => void uploads.add(files)}
      />
    </div>
  {/if}
</section>
