<script lang="ts">
  import Pick from '$ui/fields/Pick.svelte';
  import { tick } from 'svelte';
  import ClockField from '$ui/fields/ClockField.svelte';
  import DayField from '$ui/fields/DayField.svelte';
  import { sayDate } from '$core/calendar/say-time';
  import SchoolViews from '../SchoolViews.svelte';
  import { enhance, saving } from '$ui/refresh';

  let { data, form } = $props();
  let zoneForm: HTMLFormElement | undefined = $state();
  const LISTS = $derived([
    { kind: 'term', title: 'Terms', one: 'term', entries: data.terms },
    { kind: 'holiday', title: 'Holidays', one: 'holiday', entries: data.holidays },
  ] as const);
</script>

<main class="mx-auto w-full max-w-6xl flex-1 overflow-auto px-5 py-5">
  <div class="flex flex-wrap items-center gap-6">
    <h1 class="text-2xl font-bold">The school’s calendar</h1>
    <SchoolViews />
  </div>
  {#if form && 'sentence' in form}<p class="trouble mt-3" role="alert">{form.sentence}</p>{/if}
  {#if form && 'says' in form && form.says}<p class="notice mt-3" role="status">{form.says}</p>{/if}
  {#each data.terms.filter((term) => term.ends >= data.today) as term (term.id)}
    <section class="mt-5 border border-rule bg-sheet p-4" aria-label="Weeks of {term.name}">
      <h2 class="font-bold">
        {term.name}
        <span class="font-normal text-ink2"
          >{sayDate(term.starts)} to {sayDate(term.ends, { year: true })}, {term.weeks.length} weeks</span
        >
      </h2>
      <ol class="mt-3 flex gap-px">
        {#each term.weeks as week (week.number)}
          <li
            class={[
              'min-w-0 flex-1 px-1 py-1.5 text-center text-xs',
              week.schoolDays === 0 ? 'bg-rule' : 'bg-spruce-pale',
            ]}
            title="{week.schoolDays} school days"
          >
            <span class="block font-bold">{week.number}</span>
            <span class="block truncate">{sayDate(week.monday)}</span>
            <span class="sr-only">{week.schoolDays} school days</span>
          </li>
        {/each}
      </ol>
    </section>
  {/each}
  <div class="mt-6 grid gap-6 md:grid-cols-2">
    {#each LISTS as list (list.kind)}
      <section aria-labelledby="list-{list.kind}">
        <h2 id="list-{list.kind}" class="font-bold">{list.title}</h2>
        <ul class="mt-1">
          {#each [...list.entries, { id: '', name: '', starts: '', ends: '' }] as entry (entry.id)}
            <li class="border-b border-rule py-2">
              <form
                method="POST"
                action="?/write"
                use:enhance={() =>
                  ({ update }) =>
                    update({ reset: entry.id === '' })}
                class="flex flex-wrap items-start gap-2"
              >
                <input type="hidden" name="kind" value={list.kind} />
                <input type="hidden" name="id" value={entry.id} />
                <input
                  class="field py-1.5"
                  name="name"
                  value={entry.name}
                  placeholder="Another {list.one}"
                  aria-label={entry.name ? `Name of ${entry.name}` : `Name of another ${list.one}`}
                  maxlength="100"
                  required
                />
                {#each [['starts', 'begins'], ['ends', 'ends']] as const as [name, says] (name)}
                  <div class="min-w-40 flex-1">
                    <DayField
                      label="{entry.name || `Another ${list.one}`} {says}"
                      {name}
                      value={entry[name]}
                      required
                      timeZone={data.timeZone}
                    />
                  </div>
                {/each}
                <button class="act act-small"
                  >{entry.id ? 'Save' : 'Add'}<span class="sr-only"
                    >{` ${entry.name || `another ${list.one}`}`}</span
                  ></button
                >
                {#if entry.id}<button
                    class="act act-small act-plain"
                    formaction="?/drop"
                    formnovalidate>Remove<span class="sr-only">{` ${entry.name}`}</span></button
                  >{/if}
              </form>
            </li>
          {/each}
        </ul>
      </section>
    {/each}
  </div>
  <form
    method="POST"
    action="?/zone"
    use:enhance={saving('The school’s clock is changed.')}
    bind:this={zoneForm}
    class="mt-6 max-w-sm"
  >
    <Pick
      label="The school’s clock"
      name="zone"
      value={data.timeZone}
      onchange={() => tick().then(() => zoneForm?.requestSubmit())}
      options={data.timeZones.map((zone) => ({ value: zone, label: zone }))}
    />
  </form>
  <form
    method="POST"
    action="?/quiet"
    use:enhance={saving('Quiet hours are saved.')}
    class="mt-6 flex flex-wrap items-end gap-3"
  >
    <label
      ><span class="label">No e-mail from</span><span class="block w-20"
        ><ClockField name="from" value={data.quiet.from} required /></span
      ></label
    >
    <label
      ><span class="label">until</span><span class="block w-20"
        ><ClockField name="to" value={data.quiet.to} required /></span
      ></label
    >
    <button class="act">Save quiet hours</button>
    <p class="w-full text-sm text-ink2">
      What is told in between waits in the mailbox, and goes out in one e-mail afterwards.
    </p>
  </form>
</main>
