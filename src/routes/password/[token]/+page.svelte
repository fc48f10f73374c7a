<script lang="ts">
  import { enhance } from '$ui/refresh';

  let { form } = $props();
</script>

<main class="overflow-auto m-auto w-full max-w-md px-6 py-10">
  <h1 class="text-2xl font-bold">A new password</h1>
  <form method="POST" use:enhance class="mt-5 space-y-4">
    {#if form?.sentence}<p class="trouble" role="alert">{form.sentence}</p>{/if}
    <label class="block"
      ><span class="label">At least 8 characters</span>
      <input
        class="field"
        type="password"
        name="password"
        autocomplete="new-password"
        minlength="8"
        required
      /></label
    >
    <button class="act act-main w-full">Set password and sign in</button>
  </form>
</main>
