<script lang="ts">
  import FileUp from '@lucide/svelte/icons/file-up';
  import X from '@lucide/svelte/icons/x';
  import { FileUpload } from '@skeletonlabs/skeleton-svelte';
  import { tick } from 'svelte';
  import { listed } from '$core/lists/listed';
  import Bar from './Bar.svelte';
  import { followReset } from './form-field';

  interface Props {
    label: string;
    /** The endings of the files that are read here: ".csv"; any where there are none. */
    accept: string[];
    /** The name under which a form sends the file. */
    name?: string;
    multiple?: boolean;
    required?: boolean;
    /** While the files are on their way, or read. */
    busy?: boolean;
    /** How many of them are done. */
    progress?: { done: number; total: number } | null;
    /** Takes the files at once; the field is empty again afterwards. */
    onfiles?: (files: File[]) => void;
    /** A button alone, which sends the form it is in. */
    asButton?: boolean;
  }
  let {
    label,
    accept,
    name,
    multiple = false,
    required = false,
    busy = false,
    progress = null,
    onfiles,
    asButton = false,
  }: Props = $props();

  const MOST = 200;
  let fault = $state('');
  let root: HTMLElement | undefined = $state();

  async function accepted(files: File[]) {
    fault = '';
    if (files.length === 0) return;
    onfiles?.(files);
    if (!asButton) return;
    await tick();
    root?.closest('form')?.requestSubmit();
  }
</script>

<div bind:this={root} class={asButton ? 'inline-block' : 'block'}>
  <FileUpload
    {name}
    accept={accept.length > 0 ? accept : undefined}
    {required}
    disabled={busy}
    maxFiles={multiple ? MOST : 1}
    acceptedFiles={onfiles ? [] : undefined}
    onFileAccept={({ files }) => accepted(files)}
    onFileReject={({ files }) => {
      const [first] = files;
      if (!first) return;
      fault = first.errors.includes('TOO_MANY_FILES')
        ? `${multiple ? `${MOST} files` : 'One file'} at a time, please.`
        : `“${first.file.name}” is not read here. What is: ${listed(accept)}.`;
    }}
  >
    <FileUpload.Context>
      {#snippet children(upload)}
        {#if asButton}
          <FileUpload.Trigger class="act act-small">{label}</FileUpload.Trigger>
        {:else}
          <FileUpload.Label class="label">{label}</FileUpload.Label>
          <FileUpload.Dropzone
            aria-label="{label}: choose or drop"
            class="flex min-h-11 cursor-pointer items-center gap-2 rounded-lg border border-dashed border-quiet bg-sheet px-3 py-2 text-ink data-disabled:cursor-default data-disabled:opacity-60 data-dragging:border-ice data-dragging:bg-ice-pale"
          >
            <FileUp size={18} class="shrink-0 text-ink2" aria-hidden="true" />
            {#each upload().acceptedFiles as file (file.name)}
              <span class="min-w-0 flex-1 truncate">{file.name}</span>
              <button
                type="button"
                class="act act-small act-plain"
                aria-label="Remove {file.name}"
                onclick={(event) => {
                  event.stopPropagation();
                  upload().clearFiles();
                }}><X size={16} aria-hidden="true" /></button
              >
            {:else}
              <span class="min-w-0 flex-1"
                >Choose {multiple ? 'files, or drop them' : 'a file, or drop it'} here
                <span class="text-sm text-ink2">{accept.join(' ')}</span></span
              >
            {/each}
          </FileUpload.Dropzone>
        {/if}
        <FileUpload.HiddenInput {@attach followReset(() => upload().clearFiles())} />
      {/snippet}
    </FileUpload.Context>
  </FileUpload>
  {#if busy}<div class="mt-2">
      <Bar label="{label}: reading" done={progress?.done} total={progress?.total} />
    </div>{/if}
  {#if fault}<p class="mt-1 text-sm text-rust" role="alert">{fault}</p>{/if}
</div>
