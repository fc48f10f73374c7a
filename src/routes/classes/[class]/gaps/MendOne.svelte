<script lang="ts">
  import X from '@lucide/svelte/icons/x';
  import { onDestroy, untrack } from 'svelte';
  import { sayTime } from '$core/calendar/say-time';
  import type { Gap } from '$core/headcount/gap';
  import { canBeUndone, remediesOf, type Deed } from '$core/headcount/remedy';
  import { sayDeed, sayGap, sayRemedy } from '$core/headcount/say-gap';
  import { MomentMaker, Moments } from '$ui/history/moments';
  import PlainPage from '$ui/page/PlainPage.svelte';
  import Rosette from '$ui/copy/Rosette.svelte';
  import type { Outcome } from './mend-gaps';
  import LossBars from './LossBars.svelte';
  import { Mending } from './mending.svelte';

  interface Props {
    gap: Gap;
    /** "Isla Abernathy", or all who share it. */
    who: string;
    title: string;
    klass: { id: string; time_zone: string };
    mayMend: boolean;
    mended: (outcome: Outcome) => void;
    close: () => void;
  }
  /** One gap: what happened, what closes it, and what that will do. */
  let { gap, who, title, klass, mayMend, mended, close }: Props = $props();

  const deeds = $derived(remediesOf(gap));
  const mending = untrack(() => new Mending(klass.id, () => who));

  /** The page that is to come here: as it stood before its work went, or the other one that it was written on. */
  let page = $state.raw<object | null>(null);
  const maker = new MomentMaker();
  onDestroy(() => maker.close());
  const wanted = $derived(
    gap.elsewhere
      ? { page: gap.elsewhere.page, version: gap.elsewhere.version }
      : gap.copy && gap.loss
        ? { page: gap.copy, version: gap.loss.version }
        : null,
  );
  $effect(() => {
    page = null;
    if (!wanted) return;
    const { page: from, version } = wanted;
    let isWanted = true;
    new Moments(`/pages/${from}`, maker).at(version).then(
      (moment) => isWanted && (page = moment?.doc ?? page),
      () => undefined,
    );
    return () => (isWanted = false);
  });

  async function mend(deed: Deed) {
    const outcome = await mending.close([{ gap, deed }]);
    if (outcome && outcome.troubles.length > 0) mending.trouble = outcome.troubles.join(' ');
    else if (outcome) mended(outcome);
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
  <p class="mt-4 wrap-anywhere">{sayGap(gap, who, klass.time_zone)}</p>
  {#if page}
    <!-- svelte-ignore a11y_no_noninteractive_tabindex (what overflows must be scrolled by keyboard) -->
    <div
      class="mt-3 max-h-72 overflow-auto border border-rule bg-(--page) px-4 py-3"
      tabindex="0"
      role="region"
      aria-label="What comes here"
    >
      <p class="text-sm font-bold">
        {gap.loss
          ? `As it stood before ${sayTime(gap.loss.at, klass.time_zone)}`
          : (gap.elsewhere?.title ?? '')}
      </p>
      <PlainPage doc={page} label={gap.loss ? 'The page before' : 'The other page'} />
    </div>
  {/if}
  {#if gap.copy && gap.loss}<LossBars
      copy={gap.copy}
      loss={gap.loss}
      timeZone={klass.time_zone}
    />{/if}
  {#if mending.trouble}<p class="trouble mt-3" role="alert">{mending.trouble}</p>{/if}
  {#if mayMend}
    <ul class="mt-4 grid gap-2" aria-label="What can be done">
      {#each deeds as deed, index (deed)}
        <li class={index === 0 ? 'notice' : 'px-3'}>
          <p class={index === 0 ? '' : 'text-sm text-ink2'}>
            {sayRemedy(gap, deed, who, klass.time_zone)}
            {canBeUndone(deed) ? 'It can be undone.' : ''}
          </p>
          <button
            class={['act mt-2', index === 0 ? 'act-main' : 'act-small']}
            disabled={mending.busy}
            onclick={() => mend(deed)}>{sayDeed(deed, gap)}</button
          >
        </li>
      {/each}
    </ul>
    {#if gap.copy && gap.cause !== 'removed'}
      <a class="act act-plain mt-2" href="/classes/{klass.id}/marking/{gap.copy}">Open copy</a>
    {/if}
  {/if}
</aside>
