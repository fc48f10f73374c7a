<script lang="ts">
  import AArrowDown from '@lucide/svelte/icons/a-arrow-down';
  import AArrowUp from '@lucide/svelte/icons/a-arrow-up';
  import Maximize from '@lucide/svelte/icons/maximize';
  import X from '@lucide/svelte/icons/x';
  import type { EditorView } from 'prosemirror-view';
  import { onMount, untrack } from 'svelte';
  import Tip from '$ui/fields/Tip.svelte';
  import { followPage } from '$ui/page/follow-page';
  import { PageSession } from '$ui/page/page-session.svelte';
  import PageView from '$ui/page/PageView.svelte';
  import type { PageData } from './$types';

  let { data }: { data: PageData } = $props();
  let view: EditorView | null = $state(null);
  const session = untrack(() => new PageSession({ ...data, setAside: [], plugins: [] }));
  /** How large a letter is, in rem: read from the last row. */
  const SIZES = [1.5, 2, 2.6, 3.4];
  let size = $state(1);

  /** What is being written stays in sight. */
  function followWriting(at: number) {
    const dom = view?.domAtPos(Math.min(at, session.state.doc.content.size)).node;
    const element = dom instanceof Element ? dom : dom?.parentElement;
    element?.scrollIntoView({ block: 'nearest', behavior: 'smooth' });
  }
  onMount(() => {
    session.watch = (_change, others) => {
      const last = others.at(-1);
      if (last) requestAnimationFrame(() => followWriting(last.at));
    };
    return followPage(session);
  });
  const BUTTON =
    'grid size-10 place-items-center rounded-md text-ink2 hover:bg-paper disabled:opacity-40';
</script>

<main class="min-h-0 flex-1 overflow-auto bg-(--page) px-[6vw] pt-6 pb-[30vh]">
  <div class="flex items-start gap-4">
    <h1 class="min-w-0 flex-1 font-page text-4xl font-semibold">{data.title}</h1>
    <Tip says="Smaller letters" class={BUTTON} disabled={size === 0} onclick={() => (size -= 1)}
      ><AArrowDown size={20} aria-hidden="true" /></Tip
    >
    <Tip
      says="Larger letters"
      class={BUTTON}
      disabled={size === SIZES.length - 1}
      onclick={() => (size += 1)}><AArrowUp size={20} aria-hidden="true" /></Tip
    >
    <Tip
      says="Whole screen"
      class={BUTTON}
      onclick={() => void document.documentElement.requestFullscreen().catch(() => undefined)}
      ><Maximize size={20} aria-hidden="true" /></Tip
    >
    <a class={BUTTON} href="/read/{data.page}" aria-label="Close"
      ><X size={20} aria-hidden="true" /></a
    >
  </div>
  <div class="mt-4" style:--letters="{SIZES[size]}rem">
    <PageView {session} label={data.title} editable={false} bind:view />
  </div>
</main>

<style>
  div :global(.page-text) {
    font-size: var(--letters, 2rem);
  }
  /* What is being written does not stand at the very edge. */
  div :global(.page-text *) {
    scroll-margin-block: 2rem;
  }
</style>
