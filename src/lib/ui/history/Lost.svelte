<script lang="ts">
  import { when } from '$core/calendar/say-time';
  import { sayLost, type Loss } from '$core/headcount/level';
  import { send } from '$ui/send';
  import { confirmDone } from '$ui/shell/toasts.svelte';

  interface Props {
    page: string;
    loss: Loss;
    now: number;
    timeZone: string;
    /** What has to be saved before the page is put back. */
    flush: () => Promise<unknown>;
    /** It is meant to be so. */
    leave: () => void;
  }
  let { page, loss, now, timeZone, flush, leave }: Props = $props();
  let busy = $state(false);
  let trouble = $state('');

  async function putBack() {
    busy = true;
    trouble = '';
    try {
      await flush();
      await send(`/pages/${page}/history`, { move: 'put back', version: loss.version });
      await confirmDone(
        'The page is put back. How it was before is kept under How it was written.',
      );
    } catch (error) {
      trouble = error instanceof Error ? error.message : 'This was not done.';
    } finally {
      busy = false;
    }
  }
</script>

<section class="notice mt-3 flex flex-wrap items-center gap-2" aria-label="What this page lost">
  <p class="min-w-0 flex-1">
    Most of what was {'words' in loss ? 'written here was deleted' : 'drawn here was erased'} at once:
    {when(loss.at, now, timeZone)}, of {sayLost(loss)}
    {loss.left === 0 ? 'none was left' : `${loss.left} were left`}.
  </p>
  <button class="act act-small act-main" disabled={busy} onclick={putBack}
    >Put back what this page lost</button
  >
  <button class="act act-small" disabled={busy} onclick={leave}>Leave it as it is</button>
  {#if trouble}<p class="trouble basis-full" role="alert">{trouble}</p>{/if}
</section>
