<script lang="ts">
  import type { SubmitFunction } from '@sveltejs/kit';
  import ClockField from '$ui/fields/ClockField.svelte';
  import { enhance } from '$ui/refresh';

  interface Props {
    klass: string;
    /** Each week's. */
    slots: readonly { id: string; weekday: number; starts: string; ends: string }[];
  }
  let { klass, slots }: Props = $props();

  const DAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];
  let trouble = $state('');
  /** The forms are of the set-up, wherever they stand. */
  const to = $derived(`/classes/${klass}/set-up`);
  const answer: SubmitFunction =
    () =>
    async ({ result, update }) => {
      trouble = result.type === 'failure' ? String(result.data?.sentence ?? '') : '';
      if (result.type === 'error') trouble = 'The server does not answer. Please try again.';
      if (result.type === 'success') await update();
    };
</script>

{#if trouble}<p class="trouble mt-1" role="alert">{trouble}</p>{/if}
<ul class="mt-1">
  {#each slots as slot (slot.id)}
    <li class="flex items-center gap-3 border-b border-rule py-2">
      <span class="flex-1">{DAYS[slot.weekday - 1]} {slot.starts} to {slot.ends}</span>
      <form method="POST" action="{to}?/dropSlot" use:enhance={answer}>
        <input type="hidden" name="slot" value={slot.id} />
        <button class="act act-small act-plain"
          >Remove<span class="sr-only">, {DAYS[slot.weekday - 1]} {slot.starts}</span></button
        >
      </form>
    </li>
  {:else}<li class="py-2 text-ink2">No lesson yet. Due times are proposed from lessons.</li>{/each}
</ul>
<form
  method="POST"
  action="{to}?/slot"
  use:enhance={answer}
  class="mt-3 flex flex-wrap items-end gap-2"
>
  <label class="flex-1"
    ><span class="label">Day</span><select class="field" name="weekday">
      {#each DAYS as day, index (day)}<option value={index + 1}>{day}</option>{/each}
    </select></label
  >
  <label
    ><span class="label">From</span><span class="block w-20"
      ><ClockField name="starts" required /></span
    ></label
  >
  <label
    ><span class="label">To</span><span class="block w-20"><ClockField name="ends" required /></span
    ></label
  >
  <button class="act">Add</button>
</form>
