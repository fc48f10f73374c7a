<script lang="ts">
  import { readLocalTime } from '$core/calendar/local-time';
  import { dueChoices } from '$core/calendar/propose-due';
  import type { DueWish } from '$core/handout/wish';
  import { when } from '$ui/when';
  import type { WishForm } from './wish-form.svelte';

  let { form }: { form: WishForm } = $props();
  let apart = $state(false);

  const zone = $derived(form.world.timeZone);
  const several = $derived(form.wish.classes.length > 1);
  const NTH = ['', 'next', '2nd next', '3rd next', '4th next'];
  const local = (due: DueWish) => (due.kind === 'at' ? due.local : '');
  const same = (a: DueWish, b: DueWish) => JSON.stringify(a) === JSON.stringify(b);
  function say(due: DueWish) {
    if (due.kind === 'none') return 'no due time';
    if (due.kind === 'lesson') return `each class’s ${NTH[due.nth]} lesson`;
    return `end of ${when(readLocalTime(due.local, zone) ?? 0, form.world.now, zone)}`;
  }
  const choices = $derived<DueWish[]>([
    ...dueChoices(
      form.situation.classes.map(({ timetable }) => timetable),
      form.situation.goesOut,
    ),
    { kind: 'none' },
  ]);
</script>

<label class="block"
  ><span class="label">Due</span><input
    class="field"
    type="datetime-local"
    value={local(form.wish.due)}
    oninput={(event) => {
      const value = event.currentTarget.value.slice(0, 16);
      form.wish.due = value ? { kind: 'at', local: value } : { kind: 'none' };
    }}
  /></label
>
<div
  class="flex flex-wrap gap-2 sm:col-span-3"
  role="group"
  aria-label="Due at the end of a lesson"
>
  {#each choices as due, index (index)}
    {@const is = same(form.wish.due, due)}
    <button
      type="button"
      class={['act act-small', is && 'border-spruce bg-spruce-pale']}
      aria-pressed={is}
      onclick={() => (form.wish.due = due)}>{say(due)}</button
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
  <div class="grid gap-3 border-l-3 border-rule pl-3 sm:col-span-3 sm:grid-cols-3">
    {#each form.wish.classes as one, index (one.class)}
      {@const klass = form.classes[index]}
      <label
        ><span class="label">Due in {klass?.name}</span><input
          class="field"
          type="datetime-local"
          value={one.due ? local(one.due) : ''}
          oninput={(event) => {
            const value = event.currentTarget.value.slice(0, 16);
            one.due = value ? { kind: 'at', local: value } : null;
          }}
        /></label
      >
    {/each}
  </div>
{/if}
