<script lang="ts">
  import MomentField from '$ui/fields/MomentField.svelte';
  import { dayOf, readLocalTime } from '$core/calendar/local-time';
  import { dueChoices, timeOn } from '$core/calendar/propose-due';
  import type { DueSpec } from '$core/handout/spec';
  import { sayClock, sayDate } from '$core/calendar/say-time';
  import type { HandOutForm } from './hand-out-form.svelte';

  let { form }: { form: HandOutForm } = $props();
  let apart = $state(false);

  const zone = $derived(form.world.timeZone);
  const several = $derived(form.spec.classes.length > 1);
  const NTH = ['', 'next', '2nd next', '3rd next', '4th next'];
  const local = (due: DueSpec) => (due.kind === 'at' ? due.local : '');
  const same = (a: DueSpec, b: DueSpec) => JSON.stringify(a) === JSON.stringify(b);
  const sayDue = (at: number) =>
    dayOf(at, zone) === dayOf(form.world.now, zone)
      ? `today ${sayClock(at, zone)}`
      : `${sayDate(dayOf(at, zone), { weekday: true })} ${sayClock(at, zone)}`;
  function say(due: DueSpec) {
    if (due.kind === 'none') return 'no due time';
    if (due.kind === 'lesson') return `each class’s ${NTH[due.nth]} lesson`;
    return sayDue(readLocalTime(due.local, zone) ?? 0);
  }
  const choices = $derived<DueSpec[]>([
    ...dueChoices(form.timetables, form.situation.goesOut),
    { kind: 'none' },
  ]);
</script>

<MomentField
  label="Due"
  value={local(form.spec.due)}
  timeZone={zone}
  timeOn={(day) => timeOn(form.timetables, day, 'ends')}
  onchange={(at) => (form.spec.due = at ? { kind: 'at', local: at } : { kind: 'none' })}
/>
<div
  class="flex flex-wrap items-center gap-2 col-span-full"
  role="group"
  aria-label="Due at the end of a lesson"
>
  <span class="text-sm text-ink2" aria-hidden="true">End of a lesson:</span>
  {#each choices as due, index (index)}
    {@const is = same(form.spec.due, due)}
    <button
      type="button"
      class={['act act-small', is && 'border-spruce bg-spruce-pale']}
      aria-pressed={is}
      onclick={() => (form.spec.due = due)}>{say(due)}</button
    >
  {/each}
  {#if several}<button
      type="button"
      class="act act-small act-plain"
      aria-expanded={apart}
      onclick={() => (apart = !apart)}>by class …</button
    >{/if}
</div>
{#if several && apart}
  <div class="grid gap-3 border-l-3 border-rule pl-3 col-span-full sm:grid-cols-2 md:grid-cols-3">
    {#each form.spec.classes as one, index (one.class)}
      {@const klass = form.classes[index]}
      <MomentField
        label="Due in {klass?.name}"
        value={one.due ? local(one.due) : ''}
        timeZone={zone}
        timeOn={(day) => timeOn(form.timetables.slice(index, index + 1), day, 'ends')}
        onchange={(at) => (one.due = at ? { kind: 'at', local: at } : null)}
      />
    {/each}
  </div>
{/if}
