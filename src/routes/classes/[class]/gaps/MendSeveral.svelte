<script lang="ts">
  import X from '@lucide/svelte/icons/x';
  import { untrack } from 'svelte';
  import { gapKey } from '$core/headcount/gap';
  import { canBeUndone } from '$core/headcount/remedy';
  import { CAUSE_SAYS, sayDeed, sayRemedy } from '$core/headcount/say-gap';
  import { counted } from '$core/lists/counted';
  import type { Chosen, Outcome } from './mend-gaps';
  import { Mending } from './mending.svelte';

  interface Props {
    chosen: readonly Chosen[];
    klass: { id: string; time_zone: string };
    nameOf: (students: readonly string[]) => string;
    titleOf: (assignment: string) => string;
    mended: (outcome: Outcome) => void;
    close: () => void;
  }
  /** Several gaps, each with what closes it, before it is done. */
  let { chosen, klass, nameOf, titleOf, mended, close }: Props = $props();
  const mending = untrack(() => new Mending(klass.id, nameOf));

  const messages = $derived(chosen.filter(({ deed }) => !canBeUndone(deed)).length);
  async function mend() {
    const outcome = await mending.close(chosen);
    if (outcome) mended(outcome);
  }
</script>

<aside
  class="flex w-[25rem] shrink-0 flex-col border-l border-rule bg-sheet p-5 max-lg:fixed max-lg:inset-y-0 max-lg:right-0 max-lg:z-30 max-lg:max-w-full"
  aria-label="Close {counted(chosen.length, 'gap')}"
>
  <div class="flex items-center gap-3">
    <h2 class="flex-1 text-lg leading-tight font-bold">Close {counted(chosen.length, 'gap')}</h2>
    <button class="act act-plain" onclick={close} aria-label="Close this panel"
      ><X size={20} aria-hidden="true" /></button
    >
  </div>
  <!-- svelte-ignore a11y_no_noninteractive_tabindex (what overflows must be scrolled by keyboard) -->
  <div
    class="mt-3 min-h-0 flex-1 overflow-auto"
    tabindex="0"
    role="region"
    aria-label="What will be done"
  >
    <ul>
      {#each chosen as { gap, deed } (gapKey(gap))}
        {@const who = nameOf(gap.students)}
        <li class="border-b border-rule py-2 text-sm wrap-anywhere">
          <strong>{who}</strong>, {titleOf(gap.assignment)}
          <span class="block text-ink2">{CAUSE_SAYS[gap.cause]} · {sayDeed(deed, gap)}</span>
          {sayRemedy(gap, deed, who, klass.time_zone)}
        </li>
      {/each}
    </ul>
  </div>
  {#if mending.trouble}<p class="trouble mt-3" role="alert">{mending.trouble}</p>{/if}
  <p class="notice mt-4">
    {messages === 0
      ? 'All of it can be undone.'
      : messages === chosen.length
        ? 'Messages cannot be undone.'
        : `It can be undone, but for ${counted(messages, 'message')}.`}
  </p>
  <div class="mt-3 flex gap-2">
    <button class="act act-main" disabled={mending.busy} onclick={mend}
      >{mending.busy
        ? 'Working …'
        : chosen.length === 1
          ? 'Close it'
          : `Close all ${chosen.length}`}</button
    >
    <button class="act" onclick={close}>Cancel</button>
  </div>
</aside>
