<script lang="ts">
  import MomentField from '$ui/fields/MomentField.svelte';
  import { enhance } from '$ui/refresh';
  import { sayClock, sayDay, when } from '$core/calendar/say-time';

  interface Props {
    /** Epoch milliseconds; null while closed. */
    opened: number | null;
    /** When it opens by itself; null for not by itself. */
    opens: number | null;
    now: number;
    timeZone: string;
    name: string;
  }
  let { opened, opens, now, timeZone, name }: Props = $props();
</script>

<section class="mb-5 border-b border-rule pb-4" aria-labelledby="opening">
  <h2 id="opening" class="font-bold">{opened === null ? 'Closed' : 'Open'}</h2>
  {#if opened === null}
    <p class="text-sm text-ink2">
      Students see nothing of {name}, and find nothing of it, until it is open. Then everyone in it
      is told.
    </p>
    {#if opens !== null}
      <p class="mt-2">
        Opens by itself on {sayDay(opens, timeZone)}, {sayClock(opens, timeZone)}.
      </p>
      <form method="POST" action="?/stay" use:enhance class="mt-2">
        <button class="act act-small">Cancel opening</button>
      </form>
    {/if}
    <form method="POST" action="?/open" use:enhance class="mt-3">
      <button class="act act-main">Open {name} now</button>
    </form>
    <form method="POST" action="?/open" use:enhance class="mt-3 flex items-end gap-2">
      <div class="flex-1"><MomentField label="or on" name="at" required {timeZone} /></div>
      <button class="act">Set</button>
    </form>
  {:else}
    <form
      method="POST"
      action="?/close"
      use:enhance
      class="mt-1 flex items-baseline gap-3 text-sm text-ink2"
    >
      <span class="flex-1">since {when(opened, now, timeZone)}</span>
      <button class="act act-small act-plain">Close class</button>
    </form>
  {/if}
</section>
