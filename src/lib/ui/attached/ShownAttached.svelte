<script lang="ts">
  import type { ShownAs } from '$core/attached/shown-as';
  import { listed } from '$core/lists/listed';
  import { fetchJson } from '$ui/send';
  import ShownPicture from './ShownPicture.svelte';
  import ShownSound from './ShownSound.svelte';
  import type { Talk } from './talk';

  interface Props {
    as: ShownAs | 'page';
    /** Where it is read. */
    at: string;
    /** What was kept of a link. */
    kept: boolean;
    name: string;
    attachment: string;
    /** What is said about it; null where that is not shown. */
    talk: Talk | null;
  }
  /** Something attached, as it is seen or heard. */
  let { as, at, kept, name, attachment, talk }: Props = $props();
  const search = $derived(kept ? '?kept' : '');
  const source = $derived(`${at}${search}`);
  const page = $derived(
    as === 'page' ? fetchJson<{ doc: object; left: string[] }>(`${at}/page${search}`) : null,
  );
</script>

{#if as === 'picture'}
  <ShownPicture {attachment} {source} {name} {talk} />
{:else if as === 'pdf'}
  {#await import('./ShownPdf.svelte') then { default: ShownPdf }}
    <ShownPdf {attachment} {source} {name} {talk} />
  {:catch}<p class="trouble">
      This cannot be shown now, because the server does not answer.
    </p>{/await}
{:else if as === 'sound' || as === 'film'}
  <ShownSound {attachment} {as} {source} {name} {talk} />
{:else if page}
  {#await page}
    <p class="text-ink2" role="status">Opening …</p>
  {:then { doc, left }}
    {#await import('$ui/page/PlainPage.svelte') then { default: PlainPage }}
      <!-- svelte-ignore a11y_no_noninteractive_tabindex (what overflows must be scrolled by keyboard) -->
      <div
        class="max-h-[70vh] overflow-auto border border-rule bg-(--page) px-4 py-3"
        tabindex="0"
        role="region"
        aria-label={name}
      >
        <PlainPage {doc} label={name} />
      </div>
    {/await}
    {#if left.length > 0}<p class="mt-1 text-sm text-ink2">
        Not shown: {listed(left)}. It is in the file.
      </p>{/if}
  {:catch error}
    <p class="trouble" role="alert">{error instanceof Error ? error.message : ''}</p>
  {/await}
{/if}
