<script lang="ts">
  import { enhance } from '$ui/refresh';

  let { form } = $props();
  const FIELDS = [
    ['school', 'The school’s name', 'text', 'organization'],
    ['given', 'Your given name', 'text', 'given-name'],
    ['family', 'Your family name', 'text', 'family-name'],
    ['signInName', 'The name you will sign in with', 'text', 'username'],
    ['password', 'A password, at least 8 characters', 'password', 'new-password'],
  ] as const;
</script>

<main class="overflow-auto m-auto w-full max-w-md px-6 py-10">
  <h1 class="text-2xl font-bold">Welcome to Uncia</h1>
  <p class="mt-2 mb-6 text-ink2">
    You will be the school’s first administrator. This link works once.
  </p>
  <form method="POST" use:enhance class="space-y-4">
    {#if form?.sentence}<p class="trouble" role="alert">{form.sentence}</p>{/if}
    {#each FIELDS as [name, label, type, autocomplete] (name)}
      <label class="block"
        ><span class="label">{label}</span>
        <input class="field" {name} {type} {autocomplete} required /></label
      >
    {/each}
    <button class="act act-main w-full">Start</button>
  </form>
</main>
