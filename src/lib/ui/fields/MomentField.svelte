<script lang="ts">
  import ClockField from './ClockField.svelte';
  import DayField from './DayField.svelte';
  import { followReset } from './form-field';

  interface Props {
    label: string;
    /** On the school's clock: "2026-10-23T14:50", or empty. */
    value?: string;
    name?: string;
    required?: boolean;
    timeZone: string;
    /** The time that a day begins with when none was chosen: "14:50". */
    timeOn?: (day: string) => string;
    onchange?: (moment: string) => void;
  }
  let {
    label,
    value = $bindable(''),
    name,
    required = false,
    timeZone,
    timeOn = () => '08:00',
    onchange,
  }: Props = $props();

  const initial = value;
  /** Typed before there was a day. */
  let early = $state('');

  function choose(moment: string) {
    value = moment;
    onchange?.(moment);
  }
  const day = $derived(value.slice(0, 10));
  const time = $derived(value.slice(11, 16));
</script>

<div role="group" aria-label={label}>
  <span class="label" aria-hidden="true">{label}</span>
  <div class="flex items-start gap-1.5">
    <div class="min-w-0 flex-1">
      <DayField
        label="{label}, day"
        bind:value={() => day, (to) => choose(to && `${to}T${time || early || timeOn(to)}`)}
        {required}
        {timeZone}
      />
    </div>
    <div class="w-16 shrink-0">
      <ClockField
        label="{label}, time"
        bind:value={
          () => time || early,
          (to) => {
            if (day) choose(`${day}T${to || timeOn(day)}`);
            else early = to;
          }
        }
        {required}
      />
    </div>
  </div>
  {#if name}<input type="hidden" {name} {value} {@attach followReset(() => choose(initial))} />{/if}
</div>
