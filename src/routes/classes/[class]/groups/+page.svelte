<script lang="ts">
  import Plus from '@lucide/svelte/icons/plus';
  import X from '@lucide/svelte/icons/x';
  import { untrack } from 'svelte';
  import { dndzone, type DndEvent } from 'svelte-dnd-action';
  import { prefersReducedMotion } from 'svelte/motion';
  import { SvelteMap } from 'svelte/reactivity';

  import { balancedGroups, randomGroups } from '$core/groups/make-groups';
  import { readColumn } from '$core/groups/read-column';
  import { listed } from '$core/lists/listed';
  import Removed from '$ui/plan/Removed.svelte';
  import { send } from '$ui/send';
  import ClassViews from '$ui/shell/ClassViews.svelte';
  import { enhance, readAgain } from '$ui/refresh';

  let { data, form } = $props();
  interface Student {
    id: string;
    title: string;
  }
  interface Group {
    key: string;
    name: string;
    members: Student[];
  }
  const UNPLACED = 'unplaced';
  function asStudent({
    id,
    given,
    family,
  }: {
    id: string;
    given: string;
    family: string;
  }): Student {
    return { id, title: `${given} ${family}` };
  }

  let chosen: string | null = $state(null);
  let name = $state('');
  let groups: Group[] = $state([]);
  let unplaced: Student[] = $state(untrack(() => data.students.map(asStudent)));
  let size = $state(4);
  let by = $state('chance');
  let pasted = $state('');
  let said = $state('');
  let trouble = $state('');

  const students = $derived(data.students.map(asStudent));
  const find = (id: string) => students.find((student) => student.id === id);
  const flipDurationMs = $derived(prefersReducedMotion.current ? 0 : 150);

  function show(next: { name: string; members: string[] }[]) {
    const placed = new Set(next.flatMap((group) => group.members));
    groups = next.map((group) => ({
      key: crypto.randomUUID(),
      name: group.name,
      members: group.members.flatMap((id) => find(id) ?? []),
    }));
    unplaced = students.filter(({ id }) => !placed.has(id));
    said = '';
    trouble = '';
  }
  const specOf = () => ({
    id: chosen,
    name,
    groups: groups.map((group) => ({
      name: group.name,
      members: group.members.map(({ id }) => id),
    })),
  });
  /** As it was opened or saved, and what was changed of others and not saved. */
  let saved = $state(untrack(() => JSON.stringify(specOf())));
  const isChanged = $derived(JSON.stringify(specOf()) !== saved);
  const changed = new SvelteMap<string, { spec: ReturnType<typeof specOf>; saved: string }>();
  const NEW = 'new';
  function open(id: string | null, leave = true) {
    if (leave && isChanged) changed.set(chosen ?? NEW, { spec: specOf(), saved });
    const grouping = data.groupings.find((one) => one.id === id);
    const before = changed.get(id ?? NEW);
    changed.delete(id ?? NEW);
    chosen = grouping?.id ?? null;
    name = before?.spec.name ?? grouping?.name ?? '';
    show(before?.spec.groups ?? grouping?.groups ?? []);
    saved = before?.saved ?? JSON.stringify(specOf());
  }
  /** The assignments that go by the groups that are shown. */
  const uses = $derived(data.grouped.filter(({ grouping }) => grouping === chosen));
  let following = $state(false);
  let deleting = $state(false);
  function removeGroup(key: string) {
    const group = groups.find((one) => one.key === key);
    groups = groups.filter((one) => one.key !== key);
    unplaced = [...unplaced, ...(group?.members ?? [])];
  }

  function make() {
    const column = by === 'column' ? readColumn(pasted, data.students) : {};
    if (by === 'column' && Object.keys(column).length === 0) {
      trouble =
        'No line of the column names a student of the class. It needs “name, value” on each line.';
      return;
    }
    const known = by === 'points' ? data.reached : column;
    const members = students.map(({ id }) => ({ id, value: known[id] ?? null }));
    const chance = (below: number) => Math.floor(Math.random() * below);
    const made = (by === 'chance' ? randomGroups : balancedGroups)(members, size, chance);
    show(made.map((members, index) => ({ name: `Group ${index + 1}`, members })));
  }
  async function save() {
    trouble = '';
    try {
      const way = `/classes/${data.klass.id}/groups`;
      const { id } = await send<{ id: string }>(way, specOf(), 'PUT');
      chosen = id;
      saved = JSON.stringify(specOf());
      said = 'The groups are saved.';
      following = uses.length > 0;
      await readAgain();
    } catch (error) {
      trouble = error instanceof Error ? error.message : '';
    }
  }
  function moved(key: string, { detail }: CustomEvent<DndEvent<Student>>) {
    if (key === UNPLACED) unplaced = detail.items;
    else
      groups = groups.map((group) =>
        group.key === key ? { ...group, members: detail.items } : group,
      );
    said = '';
  }
  const zones = $derived([...groups, { key: UNPLACED, name: 'In no group', members: unplaced }]);
  const BY = [
    ['chance', 'by chance'],
    ['points', 'balanced by points so far'],
    ['column', 'balanced by a column'],
  ] as const;
</script>

{#snippet drop(label: string)}
  <form
    method="POST"
    action="?/away"
    use:enhance={() =>
      async ({ update, result }) => {
        await update({ reset: false });
        if (result.type !== 'success') return;
        deleting = false;
        open(null, false);
      }}
  >
    <input type="hidden" name="grouping" value={chosen} />
    <input type="hidden" name="away" value="true" />
    <button class="act act-plain">{label}</button>
  </form>
{/snippet}

<main class="min-w-0 flex-1 overflow-auto px-5 py-3">
  <div class="flex flex-wrap items-center gap-x-6 gap-y-1">
    <h1 class="text-lg font-bold">{data.klass.name} {data.klass.title}</h1>
    <ClassViews klass={data.klass.id} leads />
  </div>
  {#if trouble || form?.sentence}<p class="trouble mt-3" role="alert">
      {trouble || form?.sentence}
    </p>{/if}
  <div class="mt-4 flex flex-wrap items-start gap-x-8 gap-y-4">
    <section class="w-72 shrink-0" aria-labelledby="kept">
      <h2 id="kept" class="font-bold">Saved groups</h2>
      <ul class="mt-1">
        {#each data.groupings as grouping (grouping.id)}
          <li class="flex items-center gap-2 border-b border-rule">
            <button
              class={['flex-1 py-1.5 text-left', grouping.id === chosen && 'font-bold']}
              aria-pressed={grouping.id === chosen}
              onclick={() => open(grouping.id)}>{grouping.name}</button
            >
            {#if changed.has(grouping.id)}<span class="text-sm text-rust">not saved</span>{/if}
            <span class="text-sm text-ink2">{grouping.groups.length}</span>
          </li>
        {:else}<li class="py-1.5 text-ink2">None yet.</li>{/each}
      </ul>
      <Removed gone={data.deleted.map((one) => ({ ...one, fields: { grouping: one.id } }))} />
      <h2 class="mt-6 font-bold">Make groups</h2>
      <label class="mt-1 block"
        ><span class="label">Group size</span><input
          class="field"
          type="number"
          min="1"
          max="50"
          bind:value={size}
        /></label
      >
      <fieldset class="mt-2">
        <legend class="sr-only">How</legend>
        {#each BY as [value, says] (value)}
          <label class="flex items-center gap-2 py-0.5"
            ><input type="radio" name="by" {value} bind:group={by} />{says}</label
          >
        {/each}
      </fieldset>
      {#if by === 'column'}
        <textarea
          class="field mt-1"
          rows="4"
          bind:value={pasted}
          aria-label="The column: on each line a name and a value"
          placeholder="Isla Abernathy, 14&#10;Noor Bastrop, 11"></textarea>
      {/if}
      <button class="act mt-2" onclick={make}
        >{groups.length > 0 ? 'Make groups again' : 'Make groups'}</button
      >
    </section>
    <section class="min-w-0 flex-1" aria-label="The groups">
      <div class="flex flex-wrap items-center gap-2">
        <input
          class="field max-w-72 font-bold"
          bind:value={name}
          placeholder="A name for these groups"
          aria-label="Name of these groups"
          maxlength="100"
        />
        <button class="act act-main" onclick={save} disabled={groups.length === 0}>Save</button>
        {#if chosen}
          <button class="act act-plain" onclick={() => open(null)}>New groups</button>
          {#if uses.length > 0 && !deleting}<button
              class="act act-plain"
              onclick={() => (deleting = true)}>Delete …</button
            >{:else}{@render drop('Delete')}{/if}
        {/if}
        <span class="text-sm text-ink2" aria-live="polite"
          >{said || (isChanged && groups.length > 0 ? 'not saved yet' : '')}</span
        >
      </div>
      {#if deleting && chosen}
        <div class="notice mt-3" role="alert">
          <p>
            {listed(uses.map(({ title }) => `“${title}”`))}
            {uses.length === 1 ? 'goes' : 'go'} by these groups. The pages stay with whom they are; the
            groups can be restored.
          </p>
          <div class="mt-2 flex gap-2">
            {@render drop('Delete the groups')}<button
              class="act act-small act-plain"
              onclick={() => (deleting = false)}>Keep them</button
            >
          </div>
        </div>
      {/if}
      {#if following && uses.length > 0}
        <div class="notice mt-3" role="status">
          <p>These assignments go by the groups. Their pages stay as they are until you say so:</p>
          <ul class="mt-1">
            {#each uses as one (one.id)}<li>
                <a class="act act-small" href="/classes/{data.klass.id}/assignments/{one.id}/change"
                  >See what changes in {one.title}</a
                >
              </li>{/each}
          </ul>
        </div>
      {/if}
      <div class="mt-3 grid grid-cols-[repeat(auto-fill,minmax(13rem,1fr))] gap-3">
        {#each zones as zone (zone.key)}
          {@const group = groups.find(({ key }) => key === zone.key)}
          <div class="border border-rule bg-sheet">
            <div class="flex min-h-11 items-center gap-2 border-b border-rule px-3 py-1.5">
              {#if group}<input
                  class="min-w-0 flex-1 border-0 bg-transparent p-0 font-bold"
                  bind:value={group.name}
                  aria-label="Name of {zone.name}"
                  maxlength="100"
                />{:else}<span class="flex-1 font-bold text-ink2">{zone.name}</span>{/if}
              <span class="text-sm text-ink2">{zone.members.length}</span>
              {#if group}<button
                  class="act act-small act-plain"
                  aria-label="Remove {zone.name}"
                  onclick={() => removeGroup(zone.key)}><X size={15} aria-hidden="true" /></button
                >{/if}
            </div>
            <ul
              class="min-h-16 p-1.5"
              aria-label={zone.name}
              use:dndzone={{
                items: zone.members,
                flipDurationMs,
                dropTargetStyle: {},
                dropTargetClasses: ['drop-here'],
              }}
              onconsider={(event) => moved(zone.key, event)}
              onfinalize={(event) => moved(zone.key, event)}
            >
              {#each zone.members as student (student.id)}
                <li class="rounded-md bg-sheet px-2 py-1 hover:bg-paper" aria-label={student.title}>
                  {student.title}
                </li>
              {/each}
            </ul>
          </div>
        {/each}
        <button
          class="act min-h-24 border-dashed"
          onclick={() =>
            (groups = [
              ...groups,
              { key: crypto.randomUUID(), name: `Group ${groups.length + 1}`, members: [] },
            ])}><Plus size={18} aria-hidden="true" /> Add group</button
        >
      </div>
      <p class="mt-2 text-sm text-ink2">
        Drag a name, or press Enter on it and move it with Tab and the arrows.
      </p>
    </section>
  </div>
</main>
