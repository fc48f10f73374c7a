<script lang="ts">
  import Pick from '$ui/fields/Pick.svelte';
  import Plus from '@lucide/svelte/icons/plus';
  import X from '@lucide/svelte/icons/x';
  import type { HandOutForm } from './hand-out-form.svelte';

  let { form, fixed = null }: { form: HandOutForm; fixed?: string | null } = $props();
  let someone = $state(false);
  let student = $state('');

  const nameOf = (id: string) => form.students.find((one) => one.id === id);
  const adaptedPages = $derived(
    form.world.materials.filter(
      ({ adapts }) => adapts && form.spec.originals.some(({ page }) => page === adapts),
    ),
  );
  const titleOf = (page: string) => form.world.materials.find(({ id }) => id === page)?.title ?? '';
  const students = $derived(
    form.students.map((one) => ({ value: one.id, label: `${one.name} (${one.klass})` })),
  );
  const isOnly = $derived(form.spec.only !== null);
  const chosen = $derived(new Set(form.spec.only ?? []));
  const groups = $derived(
    form.classes.flatMap(({ name, groupings }) =>
      groupings.flatMap((grouping) =>
        grouping.groups.map((group) => ({
          ...group,
          says: `${name}, ${grouping.name}: ${group.name}`,
        })),
      ),
    ),
  );
  function setOnly(only: boolean) {
    form.spec.only = only ? [] : null;
  }
  function choose(ids: readonly string[], is: boolean) {
    const rest = (form.spec.only ?? []).filter((id) => !ids.includes(id));
    form.spec.only = is ? [...rest, ...ids] : rest;
  }
  function act(what: 'out' | 'back' | string) {
    if (!student) return;
    if (what === 'out') form.leaveOut(student, true);
    else form.adapt(student, what);
    student = '';
    someone = false;
  }
</script>

<fieldset>
  <legend class="label">Who gets it?</legend>
  <div class="flex flex-wrap gap-2">
    {#each form.world.classes as klass (klass.id)}
      {@const is = form.spec.classes.some((one) => one.class === klass.id)}
      <button
        type="button"
        class={['chip', is && 'chip-on']}
        aria-pressed={is}
        aria-disabled={klass.id === fixed}
        onclick={() => klass.id !== fixed && form.toggleClass(klass.id)}
        >{klass.name} · {klass.facts.students.length}</button
      >
    {/each}
  </div>
  <div class="mt-2 flex flex-wrap gap-2">
    {#each form.spec.without as id (id)}
      {@const one = nameOf(id)}
      {#if one}<button type="button" class="chip" onclick={() => form.leaveOut(id, false)}
          >without {one.name} ({one.klass})<X size={14} aria-label="take back" /></button
        >{/if}
    {/each}
    {#each form.spec.adapted as { page, students } (page)}
      {#each students as id (id)}
        {@const one = nameOf(id)}
        {#if one}<button
            type="button"
            class="chip border-plum bg-plum-pale text-plum"
            onclick={() => form.adapt(id, null)}
            >{titleOf(page)} → {one.name}<X size={14} aria-label="take back" /></button
          >{/if}
      {/each}
    {/each}
    <button type="button" class="chip" aria-expanded={someone} onclick={() => (someone = !someone)}
      ><Plus size={14} aria-hidden="true" />someone</button
    >
    <button
      type="button"
      class={['chip', isOnly && 'chip-on']}
      aria-pressed={isOnly}
      onclick={() => setOnly(!isOnly)}>only some</button
    >
  </div>
  {#if someone}
    <div class="mt-2 flex flex-wrap items-end gap-2 border-l-3 border-rule pl-3">
      <div class="w-64"><Pick label="Student" options={students} bind:value={student} /></div>
      <button type="button" class="act" disabled={!student} onclick={() => act('out')}
        >Leave out</button
      >
      {#each adaptedPages as page (page.id)}
        <button type="button" class="act" disabled={!student} onclick={() => act(page.id)}
          >Give “{page.title}”</button
        >
      {:else}<span class="text-sm text-ink2">No adapted page of this original yet.</span>{/each}
    </div>
  {/if}
  {#if isOnly}
    <div class="mt-2 max-h-56 overflow-auto border-l-3 border-rule pl-3">
      {#if groups.length > 0}
        <div class="flex flex-wrap gap-2 pb-1">
          {#each groups as group, index (index)}
            {@const all = group.members.length > 0 && group.members.every((id) => chosen.has(id))}
            <button
              type="button"
              class={['chip', all && 'chip-on']}
              aria-pressed={all}
              onclick={() => choose(group.members, !all)}>{group.says}</button
            >
          {/each}
        </div>
      {/if}
      <div class="columns-3 gap-4 text-sm max-md:columns-2">
        {#each form.students as one (`${one.klass} ${one.id}`)}
          <label class="flex items-center gap-2 py-0.5"
            ><input
              type="checkbox"
              checked={chosen.has(one.id)}
              onchange={(event) => choose([one.id], event.currentTarget.checked)}
            />{one.name}</label
          >
        {/each}
      </div>
    </div>
  {/if}
</fieldset>
