<script lang="ts">
  import { enhance } from '$ui/refresh';

  let { data, form } = $props();
</script>

<main class="overflow-auto m-auto w-full max-w-md px-6 py-10">
  <h1 class="text-2xl font-bold">A new password</h1>
  {#if !data.mails}
    <p class="mt-3">
      This school sends no e-mail. Your teacher or the school office can give you a new password.
    </p>
  {:else if form && 'sent' in form}
    <p class="notice mt-3" role="status">
      If this account has an e-mail address, a link is on its way to it. It works once, within an
      hour. Without an address, your teacher or the school office can give you a new password.
    </p>
  {:else}
    <p class="mt-2 mb-5 text-ink2">We send a link to the e-mail address of your account.</p>
    <form method="POST" use:enhance class="space-y-4">
      {#if form && 'sentence' in form}<p class="trouble" role="alert">{form.sentence}</p>{/if}
      <label class="block"
        ><span class="label">The name you sign in with</span>
        <input class="field" name="name" autocomplete="username" required /></label
      >
      <button class="act act-main w-full">Send the link</button>
    </form>
  {/if}
  <p class="mt-6"><a href="/sign-in">Back to sign in</a></p>
</main>
