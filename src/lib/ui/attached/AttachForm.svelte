<script lang="ts">
  import { untrack } from 'svelte';
  import FileField from '$ui/fields/FileField.svelte';
  import { send } from '$ui/send';
  import UnderwayList from './UnderwayList.svelte';
  import { Uploads } from './uploads.svelte';

  interface Props {
    page: string;
    /** Something was attached. */
    changed: () => void;
  }
  /** Attaches files and links to a copy. */
  let { page, changed }: Props = $props();

  const uploads = untrack(() => new Uploads(`/pages/${page}/uploads`, () => changed()));
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

<UnderwayList {uploads} />
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
