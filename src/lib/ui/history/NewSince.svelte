<script lang="ts">
  import type { EditorView } from 'prosemirror-view';
  import { counted } from '$core/lists/counted';
  import { when } from '$core/calendar/say-time';
  import type { NewSince } from '$core/history/changed-ranges';

  interface Props {
    since: NewSince | null;
    view: EditorView | null;
    now: number;
    timeZone: string;
  }
  /** Says how much of a page is new since somebody looked, brings the first of it into sight, and goes on to the next. */
  let { since, view, now, timeZone }: Props = $props();

  let shown = $state(0);
  const count = $derived(since?.places.length ?? 0);

  function show(index: number) {
    const place = view?.dom.querySelector(`[data-new="${index % count}"]`);
    place?.scrollIntoView({ block: 'center' });
    shown = index + 1;
  }
  $effect(() => {
    // Who comes for how it was written is led there.
    if (view && count > 0 && !location.hash) requestAnimationFrame(() => show(0));
  });
</script>

{#if since && count > 0}
  <p class="mt-2 flex flex-wrap items-center gap-2 text-sm text-ink2">
    <span
      ><span class="rounded bg-lamp-pale px-1 text-ink">New</span> in {counted(count, 'place')} since
      {since.since}
      {when(since.at, now, timeZone)}</span
    >
    {#if count > 1}<button class="act act-small" onclick={() => show(shown)}>Next place</button
      >{/if}
  </p>
{/if}
