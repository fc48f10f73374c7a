<script lang="ts">
  import PlainPage from '$ui/page/PlainPage.svelte';

  /** The cover of a folio, as a book lies on a table. */
  interface Props {
    cover: { title: string; doc: object };
    by: string;
  }
  let { cover, by }: Props = $props();
</script>

<section
  class="min-h-80 rounded-r-lg border border-l-8 border-rule border-l-spruce bg-(--page) px-7 py-6 shadow-md"
  aria-label="Cover"
>
  <p class="font-page text-3xl font-semibold break-words">{cover.title}</p>
  <p class="mb-4 text-ink2">{by}</p>
  <PlainPage doc={cover.doc} label={cover.title} />
</section>
