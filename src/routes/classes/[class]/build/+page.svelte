<script lang="ts">
  import { goto } from '$app/navigation';
  import {
    isForCopies,
    planBuild,
    type BuildPlan,
    type Destination,
  } from '$core/course/build-plan';
  import { listed } from '$core/lists/listed';
  import { enhance } from '$ui/refresh';
  import { untrack } from 'svelte';
  import Lessons from '$ui/plan/Lessons.svelte';
  import Assignments from './Assignments.svelte';

  let { data, form } = $props();
  type Choice = { readings: Destination; originals: Destination };
  let left: (string | null)[] = $state([]);
  let choices: Record<string, Choice> = $state({});
  let sections = $state('follow');
  let names = $state('');
  let also = $state(untrack(() => data.also));
  const into = $derived(data.into.filter(({ id }) => id === data.klass.id || also.includes(id)));
  const here = $derived(data.into.find(({ id }) => id === data.klass.id));
  /** Assignments that somebody chose or left out. */
  let toggled: Record<string, boolean> = $state({});
  /** What a class has already is not proposed once more. */
  const assignments = $derived(
    (data.source?.assignments ?? []).flatMap(({ id, title }) =>
      (toggled[id] ?? !here?.titles.includes(title)) ? id : [],
    ),
  );

  const choiceOf = (id: string | null): Choice =>
    choices[id ?? ''] ??
    (ofClass
      ? { readings: 'same', originals: 'same' }
      : { readings: 'shelf', originals: 'cupboard' });
  const choose = (id: string | null, change: Partial<Choice>) =>
    (choices[id ?? ''] = { ...choiceOf(id), ...change });
  const units = $derived(data.source?.units ?? []);
  const pages = $derived(data.source?.pages.filter(({ id }) => !here?.has.includes(id)) ?? []);
  const shown = $derived(
    units.filter(
      ({ id }) =>
        id !== null ||
        pages.some(({ unit, area }) => unit === null && area !== 'welcome') ||
        data.source?.assignments.some(({ unit }) => unit === null),
    ),
  );
  const spec = $derived({
    units: shown.filter(({ id }) => !left.includes(id)).map(({ id }) => ({ id, ...choiceOf(id) })),
    assignments,
    rules: data.source?.rules !== null,
    sections:
      sections === 'by hand'
        ? names
            .split('\n')
            .map((name) => name.trim())
            .filter(Boolean)
        : [],
  });
  const plans = $derived.by(() => {
    const { source } = data;
    return source ? into.map((one) => ({ ...one, plan: planBuild(source, spec, one) })) : [];
  });
  function sayPlan(name: string, { sentence, undated }: BuildPlan): string {
    const says = plans.length > 1 ? `${name}: ${sentence}` : sentence;
    return undated.length > 0 ? `${says} Without a due time: ${listed(undated)}.` : says;
  }
  const isNothing = $derived(
    plans.every(
      ({ plan }) => plan.pages.length + plan.units.length + plan.assignments.length === 0,
    ),
  );
  const offered = $derived(
    (data.source?.assignments ?? []).filter(({ unit }) => !left.includes(unit)),
  );
  /** Their lessons are entered here, where due times are counted by them. */
  const without = untrack(() => data.into.filter(({ slots }) => slots.length === 0));
  const entering = $derived(
    data.source?.assignments.some(({ due }) => due.kind === 'at')
      ? into.filter(({ id }) => without.some((one) => one.id === id))
      : [],
  );
  const fromName = $derived(
    data.classes.find(({ id }) => data.from === `class ${id}`)?.name ?? 'the class before',
  );
  const count = (unit: string | null, originals: boolean) =>
    pages.filter(
      (page) => page.unit === unit && page.area !== 'welcome' && isForCopies(page) === originals,
    ).length;
  const ofClass = $derived(data.from.startsWith('class '));
  const PLACES: [Destination, string][] = $derived([
    ...(ofClass ? [['same', `as in ${fromName}`] as [Destination, string]] : []),
    ['shelf', 'to the shelf'],
    ['worktable', 'to the worktable'],
    ['cupboard', 'into the cupboard'],
    ['leave', 'stay behind'],
  ]);
  const OWN = { own: '', write: ', shared with you', use: ', shared with you' };
</script>

<main class="min-w-0 flex-1 overflow-auto px-5 py-5">
  <div class="mx-auto max-w-4xl">
    <h1 class="text-2xl font-bold">What {data.klass.name} begins with</h1>
    <p class="text-ink2">
      Nothing comes that you do not choose, and no student’s work comes at all.
    </p>
    {#if form?.sentence}<p class="trouble mt-3" role="alert">{form.sentence}</p>{/if}
    <label class="mt-4 block max-w-md"
      ><span class="label">From</span>
      <select
        class="field"
        value={data.from}
        onchange={(event) => {
          left = [];
          choices = {};
          toggled = {};
          void goto(`?from=${encodeURIComponent(event.currentTarget.value)}`, { keepFocus: true });
        }}
      >
        {#if !data.from}<option value="">choose</option>{/if}
        <optgroup label="Courses">
          {#each data.courses as course (course.id)}<option value="course {course.id}"
              >{course.title}{OWN[course.may]}</option
            >{/each}
        </optgroup>
        <optgroup label="Classes">
          {#each data.classes as klass (klass.id)}<option value="class {klass.id}"
              >{klass.name}
              {klass.course}{klass.archived ? `, ${klass.term}, archived` : ''}</option
            >{/each}
        </optgroup>
      </select></label
    >
    <p class="mt-1 text-sm text-ink2">
      A class in an archive’s file has to be <a href="/classes/open">opened</a> first.
    </p>
    {#if entering.length > 0}
      <p class="mt-4">Due times go by lessons. Enter those of each week first:</p>
      <div class="mt-2 grid gap-x-8 gap-y-4 lg:grid-cols-2">
        {#each entering as { id, name, slots } (id)}
          <section class="border border-rule bg-sheet px-4 py-3" aria-labelledby="lessons-{id}">
            <h2 id="lessons-{id}" class="font-bold">Lessons of {name}</h2>
            <Lessons klass={id} {slots} />
          </section>
        {/each}
      </div>
    {/if}
    {#if data.source}
      <form method="POST" use:enhance class="mt-5">
        <input type="hidden" name="from" value={data.from} />
        {#if data.into.length > 1}
          <fieldset class="mb-4">
            <legend class="label">Into</legend>
            {#each data.into as { id, name } (id)}
              <label class="mr-5">
                {#if id === data.klass.id}<input type="checkbox" checked disabled />{:else}<input
                    type="checkbox"
                    name="also"
                    value={id}
                    bind:group={also}
                  />{/if}
                {name}</label
              >
            {/each}
          </fieldset>
        {/if}
        <table class="w-full border-collapse border border-rule bg-sheet">
          <thead>
            <tr class="border-b-2 border-ink text-left text-sm text-ink2">
              <th scope="col" class="px-3 py-2 font-normal">Unit</th>
              <th scope="col" class="px-3 py-2 font-normal">What students read</th>
              <th scope="col" class="px-3 py-2 font-normal">What copies are made from</th>
            </tr>
          </thead>
          <tbody>
            {#each shown as unit (unit.id)}
              {@const out = left.includes(unit.id)}
              <tr class={['border-b border-rule', out && 'text-ink2']}>
                <th scope="row" class="px-3 py-2 text-left">
                  <label class="flex items-center gap-2">
                    <input
                      type="checkbox"
                      name="unit"
                      value={unit.id ?? ''}
                      checked={!out}
                      onchange={(event) =>
                        (left = event.currentTarget.checked
                          ? left.filter((one) => one !== unit.id)
                          : [...left, unit.id])}
                    />{unit.title}</label
                  >
                </th>
                {#each [['readings', false], ['originals', true]] as const as [name, originals] (name)}
                  {@const n = count(unit.id, originals)}
                  <td class="px-3 py-2">
                    <label class={['flex items-center gap-2', n === 0 && 'hidden']}>
                      <span class="w-14 shrink-0">{n} {n === 1 ? 'page' : 'pages'}</span>
                      <select
                        class="field py-1"
                        name="{name} {unit.id ?? ''}"
                        aria-label="{unit.title}: {n} {originals ? 'originals' : 'readings'}"
                        value={choiceOf(unit.id)[name]}
                        onchange={(event) => {
                          const place = PLACES.find(
                            ([place]) => place === event.currentTarget.value,
                          );
                          if (place) choose(unit.id, { [name]: place[0] });
                        }}
                      >
                        {#each PLACES as [place, says] (place)}<option value={place}>{says}</option
                          >{/each}
                      </select>
                    </label>
                    {#if n === 0}<span class="text-ink2">none</span>{/if}
                  </td>
                {/each}
              </tr>
            {:else}
              <tr><td colspan="3" class="px-3 py-3 text-ink2">There is nothing in it yet.</td></tr>
            {/each}
          </tbody>
        </table>
        {#if offered.length > 0}
          <Assignments
            assignments={offered}
            chosen={assignments}
            choose={(id, comes) => (toggled[id] = comes)}
            {plans}
            from={fromName}
            timeZone={data.timeZone}
          />
        {/if}
        {#if data.source.rules}
          <label class="mt-4 flex items-center gap-2"
            ><input type="checkbox" name="rules" checked /> Points count as in {fromName}: its
            categories, weights and grades, unless rules are set already</label
          >
        {/if}
        <fieldset class="mt-4">
          <legend class="label">Sections of the students’ workbooks</legend>
          <label class="mr-5"
            ><input type="radio" name="sections" value="follow" bind:group={sections} /> follow the units</label
          >
          <label
            ><input type="radio" name="sections" value="by hand" bind:group={sections} /> named by hand</label
          >
          {#if sections === 'by hand'}
            <textarea
              class="field mt-2 max-w-md"
              rows="4"
              name="names"
              bind:value={names}
              aria-label="Sections, one on a line"
              placeholder="One on a line"></textarea>
          {/if}
        </fieldset>
        <div class="notice mt-4" role="status">
          {#each plans as { id, name, plan } (id)}<p>{sayPlan(name, plan)}</p>{/each}
        </div>
        <button class="act act-main mt-4" disabled={isNothing}>Bring it in</button>
      </form>
    {:else}<p class="mt-4 text-ink2">Choose a course or a class to bring in from.</p>{/if}
  </div>
</main>
