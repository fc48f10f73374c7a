<script lang="ts">
  import DayField from '$ui/fields/DayField.svelte';
  import Choice from '$ui/fields/Choice.svelte';

  /** Until which day students read their own work of an archived class; empty for not at all. Sent as `until`. */
  let { until = $bindable(), timeZone }: { until: string; timeZone: string } = $props();
  let last = $state(until);
  const reads = $derived(until === '' ? 'no' : 'until');
</script>

<input type="hidden" name="until" value={until} />
<p class="label">Students</p>
<div class="flex flex-wrap items-center gap-3">
  <Choice
    label="Whether students read their own work"
    options={[
      ['until', 'read their own work until'],
      ['no', 'see nothing of it any more'],
    ]}
    bind:value={
      () => reads,
      (chosen) => {
        if (until) last = until;
        until = chosen === 'no' ? '' : last;
      }
    }
  />
  {#if reads === 'until'}<span class="w-48"
      ><DayField label="Last day for reading" bind:value={until} required {timeZone} /></span
    >{/if}
</div>
