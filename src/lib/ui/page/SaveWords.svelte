<script lang="ts">
  import type { PageSession } from './page-session.svelte';
  import { sayClock } from '$core/calendar/say-time';

  let { session, timeZone }: { session: PageSession; timeZone: string } = $props();
  const saved = $derived(
    `everything is saved${session.savedAt ? ` · ${sayClock(session.savedAt, timeZone)}` : ''}`,
  );
</script>

<span
  role="status"
  class={session.save === 'waiting' || session.save === 'refused' ? 'text-rust' : ''}
>
  {#if session.save === 'saving'}saving …
  {:else if session.save === 'waiting'}no connection: your words are kept in this browser and will
    be sent
  {:else if session.save === 'refused'}not saved: your words are kept in this browser
  {:else}{saved}{/if}
</span>
