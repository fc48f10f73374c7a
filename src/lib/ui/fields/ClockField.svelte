<script lang="ts">
  import { tick } from 'svelte';
  import { readClock } from '$core/calendar/read-typed';
  import { valid } from './form-field';

  interface Props {
    /** For a screen reader, when nothing beside the field says what it is. */
    label?: string;
    /** A time of day of 24 hours: "14:50", or empty. */
    value?: string;
    name?: string;
    required?: boolean;
  }
  let { label, value = $bindable(''), name, required = false }: Props = $props();

  const FAULT = 'A time like 14:50, please.';
  let isWrong = $state(false);

  function read(field: HTMLInputElement) {
    const time = field.value.trim() === '' ? '' : readClock(field.value);
    isWrong = time === null;
    if (time === null) return;
    if (time !== value) value = time;
    // Whoever holds the value may have put another in the place of none.
    field.value = value;
  }
</script>

<span class="block">
  <input
    class="field px-2.5"
    type="text"
    inputmode="numeric"
    autocomplete="off"
    maxlength="6"
    placeholder="time"
    aria-label={label}
    aria-invalid={isWrong}
    {name}
    {required}
    {value}
    onfocus={(event) => {
      // A day that was just chosen brings its time along: typing replaces it.
      const field = event.currentTarget;
      void tick().then(() => field.select());
    }}
    oninput={() => (isWrong = false)}
    onblur={(event) => read(event.currentTarget)}
    onkeydown={(event) => {
      if (event.key === 'Enter') read(event.currentTarget);
    }}
    {@attach valid(() => (isWrong ? FAULT : ''))}
  />
  {#if isWrong}<span class="mt-1 block text-sm text-rust" role="alert">{FAULT}</span>{/if}
</span>
