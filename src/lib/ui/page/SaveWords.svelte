<script lang="ts">
  import type { PageSession } from './page-session.svelte';
  import { page } from '$app/state';
  import { sayClock } from '$core/calendar/say-time';

  let { session, timeZone }: { session: PageSession; timeZone: string } = $props();
  const kept = $derived(
    session.keepsNothing
      ? 'your words are on this page alone, which must stay open,'
      : 'your words are kept in this browser',
  );
  const says = $derived(
    {
      saved: `everything is saved${session.savedAt ? ` · ${sayClock(session.savedAt, timeZone)}` : ''}`,
      saving: 'saving …',
      away: `no connection: ${kept} and will be sent`,
      'signed out': `you are signed out: ${kept}.`,
      refused: `not saved: ${kept}`,
    }[session.save],
  );
  const isWell = $derived(session.save === 'saved' || session.save === 'saving');
</script>

<span role="status" aria-busy={session.isKeeping} class={isWell ? '' : 'text-rust'}
  >{says}{#if session.save === 'signed out'}
    <a href="/sign-in?to={encodeURIComponent(page.url.pathname)}">Sign in</a>{/if}</span
>
