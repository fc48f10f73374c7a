<script lang="ts">
  import { enhance } from '$ui/refresh';

  let { data, form } = $props();
  const teachers = $derived(data.people.filter((person) => person.role !== 'student'));
  const students = $derived(data.people.filter((person) => person.role === 'student'));
  const DEMO_PASSWORD = 'skerry-point';
</script>

{#snippet offered(people: typeof data.people)}
  <ul class="flex flex-wrap gap-2">
    {#each people as person (person.name)}
      <li>
        <form method="POST" use:enhance>
          <input type="hidden" name="name" value={person.name} />
          <input type="hidden" name="password" value={DEMO_PASSWORD} />
          <input type="hidden" name="to" value={data.to} />
          <button class="act act-small">{person.given} {person.family}</button>
        </form>
      </li>
    {/each}
  </ul>
{/snippet}

<main class="m-auto grid w-full max-w-4xl gap-10 px-6 py-10 md:grid-cols-[22rem_1fr]">
  <section>
    <p class="flex items-center gap-3">
      <img src="/mark.svg" alt="" width="44" height="44" /><span class="text-3xl font-bold"
        >Uncia</span
      >
    </p>
    <p class="mt-3 text-lg text-ink2">Every student’s copy of every page, safe and in sight.</p>
    <form method="POST" use:enhance class="mt-8 space-y-4">
      <h1 class="text-xl font-bold">Sign in</h1>
      {#if form?.sentence}<p class="trouble" role="alert">{form.sentence}</p>{/if}
      <label class="block"
        ><span class="label">Name</span>
        <input
          class="field"
          name="name"
          autocomplete="username"
          required
          autocapitalize="none"
          defaultValue={form?.name ?? ''}
        /></label
      >
      <label class="block"
        ><span class="label">Password</span>
        <input
          class="field"
          name="password"
          type="password"
          autocomplete="current-password"
          required
        /></label
      >
      <input type="hidden" name="to" value={data.to} />
      <button class="act act-main w-full">Sign in</button>
      <p><a href="/password" class="text-sm">I forgot my password</a></p>
    </form>
  </section>
  {#if data.people.length > 0}
    <section class="rounded-xl border border-rule bg-sheet p-6" aria-labelledby="demo">
      <h2 id="demo" class="text-lg font-bold">Skerry Point School, a demo</h2>
      <p class="mt-1 mb-4 text-ink2">
        All people here are invented. Choose who you are; use two browsers to be two people.
      </p>
      <h3 class="label">Teachers and office</h3>
      {@render offered(teachers)}
      <h3 class="label mt-5">Students of 8C</h3>
      {@render offered(students)}
    </section>
  {/if}
</main>
