<script lang="ts">
  import FileField from '$ui/fields/FileField.svelte';
  import Sheet from '$ui/shell/Sheet.svelte';
  import { uploadPicture } from '$ui/page/paste';
  import { readAgain } from '$ui/refresh';

  interface Props {
    course: string;
    units: { id: string; title: string }[];
  }
  let { course, units }: Props = $props();
  const PICTURES = ['.png', '.jpg', '.jpeg', '.gif', '.webp'];

  let shown = $state(false);
  let unit = $state('');
  let kind = $state('original');
  let progress: { done: number; total: number } | null = $state(null);
  let lines: { name: string; said: string; ok: boolean }[] = $state([]);

  async function bringIn(files: File[]) {
    progress = { done: 0, total: files.length };
    lines = [];
    const pictures: Record<string, string> = {};
    const isPicture = (file: File) =>
      PICTURES.some((ending) => file.name.toLowerCase().endsWith(ending));
    for (const file of files.filter(isPicture)) {
      try {
        pictures[file.name] = await uploadPicture(file);
      } catch (error) {
        lines.push({
          name: file.name,
          said: error instanceof Error ? error.message : '',
          ok: false,
        });
      }
      progress.done += 1;
    }
    for (const file of files.filter((one) => !isPicture(one))) {
      const body = new FormData();
      body.set('document', file);
      body.set('unit', unit);
      body.set('kind', kind);
      body.set('pictures', JSON.stringify(pictures));
      const answer = await fetch(`/courses/${course}/import`, { method: 'POST', body }).catch(
        () => null,
      );
      const read = await answer?.json().catch(() => null);
      if (!answer?.ok)
        lines.push({
          name: file.name,
          said: read?.message ?? 'The server does not answer. Please try again.',
          ok: false,
        });
      else
        lines.push({
          name: file.name,
          said:
            read.left.length > 0
              ? `is here as “${read.title}”. This stayed behind: ${read.left.join(', ')}.`
              : `is here as “${read.title}”, with all that was in it.`,
          ok: true,
        });
      progress.done += 1;
    }
    progress = null;
    await readAgain();
  }
</script>

<button class="act act-small" onclick={() => (shown = true)}>Bring in pages</button>
<Sheet bind:open={shown} title="Bring in pages">
  <p class="text-sm text-ink2">
    From .docx, .odt, .md or .html, several at once. Choose the pictures that belong to them along
    with them.
  </p>
  <div class="mt-3 grid grid-cols-2 gap-3">
    <label
      ><span class="label">Into</span><select class="field" bind:value={unit}>
        <option value="">no unit yet</option>
        {#each units as one (one.id)}<option value={one.id}>{one.title}</option>{/each}
      </select></label
    >
    <label
      ><span class="label">As</span><select class="field" bind:value={kind}>
        <option value="original">originals</option>
        <option value="reading">readings</option>
      </select></label
    >
  </div>
  <div class="mt-3">
    <FileField
      label="Documents and pictures"
      multiple
      busy={progress !== null}
      {progress}
      accept={['.docx', '.odt', '.md', '.markdown', '.html', '.htm', ...PICTURES]}
      onfiles={bringIn}
    />
  </div>
  <div aria-live="polite">
    {#if progress}<p class="mt-3 text-ink2">{progress.done} of {progress.total} read</p>{/if}
    <ul class="mt-3 flex flex-col gap-1.5 text-sm">
      {#each lines as line, index (index)}
        <li class={line.ok ? '' : 'text-rust'}><strong>{line.name}</strong> {line.said}</li>
      {/each}
    </ul>
  </div>
  <p class="mt-4 text-right"><button class="act" onclick={() => (shown = false)}>Close</button></p>
</Sheet>
