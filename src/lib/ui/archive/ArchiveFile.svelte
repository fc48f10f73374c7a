<script lang="ts">
  import Bar from '../fields/Bar.svelte';

  interface Props {
    archive: {
      name: string;
      total: number;
      done: number;
      size: number;
      finished: number | null;
      fault: string | null;
    } | null;
    /** Where it is downloaded, for who may. */
    href: string | null;
  }
  /** An archive that is made, or is being made. */
  let { archive, href }: Props = $props();

  const sizeOf = (bytes: number) =>
    bytes < 1e6 ? `${Math.max(1, Math.round(bytes / 1e3))} kB` : `${(bytes / 1e6).toFixed(1)} MB`;
</script>

{#if archive?.finished && href}
  <p class="mt-2">
    <a class="act act-main" {href} download
      >Download<span class="sr-only">&nbsp;{archive.name}</span></a
    >
    <span class="ml-2 text-sm text-ink2">{archive.name}, {sizeOf(archive.size)}</span>
  </p>
{:else if archive && !archive.finished}
  <div class="mt-2 max-w-md" role="status">
    <p class="text-sm">
      {archive.fault ??
        (archive.total === 0
          ? 'It is being made. You can leave; it goes on by itself.'
          : `${archive.done} of ${archive.total} pages are in it. You can leave; it goes on by itself.`)}
    </p>
    {#if archive.total > 0}<Bar
        label="Pages that are in it"
        done={archive.done}
        total={archive.total}
      />{/if}
  </div>
{/if}
