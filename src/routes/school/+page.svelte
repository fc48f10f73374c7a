<script lang="ts">
  import SchoolViews from './SchoolViews.svelte';

  let { data } = $props();
  const ROLES = { teacher: 'Teachers', office: 'Office', student: 'Students' };
  const groups = $derived(
    Object.entries(ROLES).map(([role, title]) => ({
      title,
      people: data.people.filter((person) => person.role === role),
    })),
  );
</script>

<!-- svelte-ignore a11y_no_noninteractive_tabindex (it scrolls) -->
<main tabindex="0" class="mx-auto w-full max-w-3xl flex-1 overflow-auto px-5 py-6">
  <div class="flex flex-wrap items-center gap-6">
    <h1 class="text-2xl font-bold">{data.school.name}</h1>
    <SchoolViews />
  </div>
  <p class="text-ink2">All times are of {data.school.time_zone}.</p>
  {#each groups as group (group.title)}
    <h2 class="mt-6 mb-2 font-bold">{group.title} · {group.people.length}</h2>
    <ul class="grid gap-x-6 sm:grid-cols-2">
      {#each group.people as person (person.id)}
        <li class="flex justify-between border-b border-rule py-1.5">
          {person.family}, {person.given}
          <span class="text-sm text-ink2">{person.sign_in_name}</span>
        </li>
      {:else}<li class="text-ink2">Nobody yet.</li>{/each}
    </ul>
  {/each}
</main>
