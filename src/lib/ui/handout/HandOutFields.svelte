<script lang="ts">
  import OnOff from '$ui/fields/OnOff.svelte';
  import Pick from '$ui/fields/Pick.svelte';
  import MomentField from '$ui/fields/MomentField.svelte';
  import Trash from '@lucide/svelte/icons/trash-2';
  import Audience from './Audience.svelte';
  import DeliveryCards from './DeliveryCards.svelte';
  import DueFields from './DueFields.svelte';
  import { timeOn } from '$core/calendar/propose-due';
  import { isSharedByClass } from '$core/handout/spec';
  import type { HandOutForm } from './hand-out-form.svelte';

  interface Props {
    form: HandOutForm;
    /** The class that cannot be left out. */
    fixed?: string | null;
    /** Before it is handed out: when it goes out can be chosen. */
    fresh?: boolean;
  }
  let { form, fixed = null, fresh = false }: Props = $props();

  const REMINDERS = [
    [null, 'none'],
    [1080, 'the evening before'],
    [1440, 'a day before'],
    [120, 'two hours before'],
  ] as const;
  const titleOf = (page: string) =>
    form.world.materials.find(({ id }) => id === page)?.title ?? 'A page';
  const groupsSay = $derived.by(() => {
    const says = form.classes.map(({ name, groupings }, index) => {
      const chosen = groupings.find(({ id }) => id === form.spec.classes[index]?.grouping);
      return chosen ? `${chosen.groups.length} groups in ${name}` : `no groups in ${name}`;
    });
    return says.slice(0, 2).join(', ');
  });
  const byGroup = $derived(
    form.spec.originals.some(({ delivery }) => delivery === 'one per group'),
  );
  const rubric = $derived(form.world.rubrics.find(({ id }) => id === form.spec.rubric));
  const total = $derived(rubric ? String(rubric.points) : null);

  $effect(() => {
    for (const { page } of form.spec.originals) void form.read(page);
  });
</script>

<label class="block"
  ><span class="label">Title</span><input
    class="field text-lg font-bold"
    bind:value={form.spec.title}
    required
    maxlength="300"
  /></label
>
{#if form.spec.form === 'pages'}
  <section aria-label="Pages">
    <p class="label">
      How should the page reach them? You can change this later; nothing anyone has written is lost.
    </p>
    {#each form.spec.originals as original (original.page)}
      {#if form.spec.originals.length > 1}
        <p class="mt-2 mb-1 flex items-center gap-2">
          <strong class="flex-1 truncate">{titleOf(original.page)}</strong>
          <button
            type="button"
            class="act act-small act-plain"
            onclick={() => form.dropPage(original.page)}
            ><Trash size={16} aria-label="Without {titleOf(original.page)}" /></button
          >
        </p>
      {/if}
      <DeliveryCards
        value={original.delivery}
        choose={(delivery) => form.deliver(original.page, delivery)}
        page={titleOf(original.page)}
        groups={groupsSay}
      />
    {/each}
    {#if isSharedByClass(form.spec)}
      <label class="mt-2 block max-w-sm"
        ><span class="label">Handed in</span><select class="field" bind:value={form.spec.handIn}>
          <option value="for all">by one of them, for all</option>
          <option value="each">once each has said that they are done</option>
        </select></label
      >
    {/if}
    {#if byGroup}
      <div class="mt-2 flex flex-wrap gap-3">
        {#each form.spec.classes as one, index (one.class)}
          {@const klass = form.classes[index]}
          <label class="text-sm"
            >Groups of {klass?.name}
            <select class="field w-auto py-1" bind:value={one.grouping}>
              {#each klass?.groupings ?? [] as grouping (grouping.id)}<option value={grouping.id}
                  >{grouping.name}</option
                >{/each}
              <option value={null}>none</option>
            </select></label
          >
        {/each}
      </div>
    {/if}
    <div class="mt-2 max-w-sm">
      <Pick
        label="Together with it"
        placeholder="no other page"
        once
        onchange={(page) => form.addPage(page)}
        options={form.world.materials
          .filter(({ offered }) => offered)
          .map(({ id, title, course }) => ({ value: id, label: title, group: course }))}
      />
    </div>
  </section>
{/if}
<Audience {form} {fixed} />
<div class="grid gap-x-4 gap-y-3 sm:grid-cols-2 md:grid-cols-3">
  {#if fresh}
    <MomentField
      label="Goes out; at once, if empty"
      bind:value={form.goesOut}
      timeZone={form.world.timeZone}
      timeOn={(day) => timeOn(form.timetables, day, 'starts')}
    />
  {/if}
  <DueFields {form} />
  {#if form.spec.classes.length === 1 && form.spec.classes[0]}
    <label class="block"
      ><span class="label">Unit</span>
      <select class="field" bind:value={form.spec.classes[0].unit}>
        {#each form.classes[0]?.units ?? [] as unit (unit.id)}<option value={unit.id}
            >{unit.title}</option
          >{/each}
        <option value={null}>no unit</option>
      </select></label
    >
  {/if}
  <label class="block"
    ><span class="label">Points</span><input
      class="field"
      inputmode="decimal"
      placeholder="none"
      bind:value={form.points}
    /></label
  >
  <Pick
    label="Category"
    placeholder="none"
    free
    value={form.spec.category ?? ''}
    onchange={(category) => (form.spec.category = category)}
    options={form.world.categories.map((name) => ({ value: name, label: name }))}
  />
  <label class="block"
    ><span class="label">Rubric</span><select class="field" bind:value={form.spec.rubric}>
      <option value={null}>none</option>
      {#each form.world.rubrics as one (one.id)}<option value={one.id}
          >{one.title} · {one.points} points</option
        >{/each}
    </select></label
  >
  {#if form.spec.form === 'pages'}
    <label class="block"
      ><span class="label">Marked</span><select class="field" bind:value={form.spec.marking}>
        <option value="by hand">by a teacher</option>
        <option value="by key">by itself, from the answer keys</option>
        <option value="by key, handed back">by itself, and handed back at once</option>
      </select></label
    >
  {/if}
  <label class="block"
    ><span class="label">Reminder</span><select class="field" bind:value={form.spec.reminder}>
      {#each REMINDERS as [minutes, says] (minutes)}<option value={minutes}>{says}</option>{/each}
    </select></label
  >
  <label class="block"
    ><span class="label">Late work</span><select class="field" bind:value={form.spec.late}>
      <option value="taken">accepted, and marked late</option>
      <option value="not taken">not taken any more</option>
    </select></label
  >
</div>
{#if total !== null && form.readPoints !== total}
  <p class="flex flex-wrap items-center gap-3 text-sm">
    The rubric is worth {total} points{form.points ? `, not ${form.points}` : ''}.
    <button type="button" class="act act-small" onclick={() => (form.points = total)}
      >Use {total} points</button
    >
  </p>
{/if}
<label class="block"
  ><span class="label">Instructions</span><textarea
    class="field"
    rows="3"
    maxlength="5000"
    bind:value={form.spec.instructions}></textarea></label
>
{#if form.spec.form === 'pages'}
  <OnOff
    says="Guard my text: students write only in the places for answers"
    bind:on={form.spec.guarded}
  />
{/if}
