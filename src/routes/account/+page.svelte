<script lang="ts">
  import FormButton from '$ui/shell/FormButton.svelte';
  import { enhance } from '$ui/refresh';
  import { when } from '$core/calendar/say-time';

  let { data, form } = $props();
  const sentence = $derived(form && 'sentence' in form ? form.sentence : null);
  const says = $derived(form && 'says' in form ? form.says : null);
</script>

<!-- svelte-ignore a11y_no_noninteractive_tabindex (it scrolls) -->
<main tabindex="0" class="mx-auto w-full max-w-2xl flex-1 overflow-auto px-5 py-6">
  <h1 class="text-2xl font-bold">Account</h1>
  {#if sentence}<p class="trouble mt-3" role="alert">{sentence}</p>{/if}
  {#if says}<p class="notice mt-3" role="status">{says}</p>{/if}
  <section class="mt-5" aria-labelledby="password">
    <h2 id="password" class="font-bold">Change your password</h2>
    <form method="POST" action="?/password" use:enhance class="mt-2 grid max-w-sm gap-3">
      <label
        ><span class="label">Current password</span><input
          class="field"
          type="password"
          name="old"
          autocomplete="current-password"
          required
        /></label
      >
      <label
        ><span class="label">New password, at least 8 characters</span><input
          class="field"
          type="password"
          name="password"
          autocomplete="new-password"
          minlength="8"
          required
        /></label
      >
      <div><button class="act act-main">Change password</button></div>
    </form>
  </section>
  <section class="mt-8" aria-labelledby="sessions">
    <div class="flex items-baseline gap-3">
      <h2 id="sessions" class="flex-1 font-bold">Where you are signed in</h2>
      {#if data.sessions.length > 1}<FormButton
          label="Sign out everywhere else"
          action="endOthers"
          fields={{}}
          look="act act-small"
        />{/if}
    </div>
    <ul class="mt-1">
      {#each data.sessions as session (session.id)}
        <li class="flex items-baseline gap-3 border-b border-rule py-2">
          <span class="min-w-0 flex-1"
            >{session.browser}
            <span class="text-sm text-ink2"
              >· since {when(session.began, data.now, data.timeZone)}, last used {when(
                session.last,
                data.now,
                data.timeZone,
              )}</span
            ></span
          >
          {#if session.here}<span class="text-sm text-ink2">here</span>
          {:else}<FormButton
              label="Sign out there"
              action="end"
              fields={{ session: session.id }}
              look="act act-small"
            />{/if}
        </li>
      {/each}
    </ul>
    <p class="mt-2 text-sm text-ink2">A session ends by itself after 12 hours without use.</p>
  </section>
</main>
