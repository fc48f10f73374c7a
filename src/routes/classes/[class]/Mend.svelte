<script lang="ts">
  import X from '@lucide/svelte/icons/x';
  import { onDestroy } from 'svelte';
  import { sayTime } from '$core/calendar/say-time';
  import { sayGap, sayRemedy, type GapView } from '$core/headcount/gap';
  import { MomentMaker, Moments } from '$ui/history/moments';
  import PlainPage from '$ui/page/PlainPage.svelte';
  import Rosette from '$ui/copy/Rosette.svelte';
  import { send } from '$ui/send';

  interface Props {
    gap: GapView;
    /** "Isla Abernathy", or all who share it. */
    who: string;
    title: string;
    klass: { id: string; time_zone: string };
    mayMend: boolean;
    /** Done, with what undoes it. */
    mended: (says: string, undo: () => Promise<unknown>) => void;
    close: () => void;
  }
  let { gap, who, title, klass, mayMend, mended, close }: Props = $props();

  const BUTTONS = {
    'never made': 'Make the copy',
    removed: 'Bring it back',
    emptied: 'Put it back',
  };
  let trouble = $state('');
  let busy = $state(false);
  const route = $derived(`/classes/${klass.id}/assignments/${gap.assignment}/gaps`);

  /** As it stood before its work went. */
  let before = $state.raw<object | null>(null);
  const maker = new MomentMaker();
  onDestroy(() => maker.close());
  $effect(() => {
    before = null;
    const { copy, loss } = gap;
    if (!copy || !loss) return;
    let isWanted = true;
    new Moments(`/pages/${copy}`, maker).at(loss.version).then(
      (moment) => isWanted && (before = moment?.doc ?? before),
      () => undefined,
    );
    return () => (isWanted = false);
  });

  async function mend() {
    busy = true;
    trouble = '';
    const at = route;
    const { copy, loss } = gap;
    try {
      if (copy && loss) {
        const history = `/pages/${copy}/history`;
        const { version } = await send<{ version: number }>(history, {
          move: 'put back',
          version: loss.version,
        });
        mended('The page is put back.', () =>
          send(history, { move: 'put back', version: version - 1 }),
        );
      } else {
        const given = await send(at, { move: 'give', students: gap.students });
        mended(gap.cause === 'removed' ? 'The copy is back.' : 'The copy is made.', () =>
          send(at, { move: 'remove', given }),
        );
      }
    } catch (error) {
      trouble = error instanceof Error ? error.message : '';
    } finally {
      busy = false;
    }
  }
  async function accept() {
    busy = true;
    try {
      await send(route, { move: 'accept', copy: gap.copy });
      close();
    } catch (error) {
      trouble = error instanceof Error ? error.message : '';
    } finally {
      busy = false;
    }
  }
</script>

<aside
  class="w-[25rem] shrink-0 overflow-auto border-l border-rule bg-sheet p-5 max-lg:fixed max-lg:inset-y-0 max-lg:right-0 max-lg:z-30 max-lg:max-w-full"
  aria-label="Gap: {who}, {title}"
>
  <div class="flex items-center gap-3">
    <Rosette mask="" state="opened" gap size={44} />
    <div class="min-w-0 flex-1">
      <h2 class="text-lg leading-tight font-bold">{who}</h2>
      <p class="text-sm text-ink2">{title}</p>
    </div>
    <button class="act act-plain" onclick={close} aria-label="Close"
      ><X size={20} aria-hidden="true" /></button
    >
  </div>
  <p class="mt-4">{sayGap(gap, who, klass.time_zone)}</p>
  {#if before && gap.loss}
    <div class="mt-3 max-h-72 overflow-auto border border-rule bg-(--page) px-4 py-3">
      <p class="text-sm font-bold">As it stood before {sayTime(gap.loss.at, klass.time_zone)}</p>
      <PlainPage doc={before} label="The page before" />
    </div>
  {/if}
  {#if trouble}<p class="trouble mt-3" role="alert">{trouble}</p>{/if}
  {#if mayMend}
    <p class="notice mt-4">{sayRemedy(gap, who, klass.time_zone)} It can be undone.</p>
    <div class="mt-3 flex flex-wrap gap-2">
      <button class="act act-main" disabled={busy} onclick={mend}>{BUTTONS[gap.cause]}</button>
      {#if gap.cause === 'emptied'}
        <button class="act" disabled={busy} onclick={accept}>Accept as it is</button>
      {/if}
      {#if gap.copy && gap.cause === 'emptied'}
        <a class="act act-plain" href="/classes/{klass.id}/marking/{gap.copy}">Open copy</a>
      {/if}
    </div>
  {/if}
</aside>
