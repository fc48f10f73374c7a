<script lang="ts">
  import { untrack } from 'svelte';
  import { saySize } from '$core/attached/shown-as';
  import Bar from '$ui/fields/Bar.svelte';
  import FileField from '$ui/fields/FileField.svelte';
  import { send } from '$ui/send';
  import { Uploads } from './uploads.svelte';

  interface Props {
    page: string;
    /** Something was attached. */
    changed: () => void;
  }
  /** Attaches files and links to a copy. */
  let { page, changed }: Props = $props();

  const uploads = untrack(() => new Uploads(page, () => changed()));
  let link = $state('');
  let sending = $state(false);
  let trouble = $state('');

  async function attachLink(event: SubmitEvent) {
    event.preventDefault();
    trouble = '';
    sending = true;
    try {
      await send(`/pages/${page}/attached`, { link });
      link = '';
      changed();
    } catch (error) {
      trouble = error instanceof Error ? error.message : '';
    } finally {
      sending = false;
    }
  }
</script>

<svelte:window onbeforeunload={(event) => uploads.underway.length > 0 && event.preventDefault()} />

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
<div class="mt-2 max-w-md">
  <FileField
    label="Attach files"
    accept={[]}
    multiple
    onfiles={(files) => void uploads.add(files)}
  />
  <form class="mt-2 flex items-end gap-2" onsubmit={attachLink}>
    <label class="min-w-0 flex-1"
      ><span class="label">Attach a link to work made elsewhere</span>
      <input class="field" type="text" inputmode="url" maxlength="5000" bind:value={link} /></label
    >
    <button class="act" disabled={sending || link.trim() === ''}>Attach link</button>
  </form>
  {#if trouble}<p class="trouble mt-2" role="alert">{trouble}</p>{/if}
</div>
