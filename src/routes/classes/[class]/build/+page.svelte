<script lang="ts">
  import { goto } from '$app/navigation';
  import { isForCopies, planBuild, type Destination } from '$core/course/build-plan';
  import { enhance } from '$ui/refresh';

  let { data, form } = $props();
  type Choice = { readings: Destination; originals: Destination };
  let left: (string | null)[] = $state([]);
  let choices: Record<string, Choice> = $state({});
  let sections = $state('follow');
  let names = $state('');

  const choiceOf = (id: string | null): Choice =>
    choices[id ?? ''] ?? { readings: 'shelf', originals: 'cupboard' };
  const choose = (id: string | null, change: Partial<Choice>) =>
    (choices[id ?? ''] = { ...choiceOf(id), ...change });
  const units = $derived(data.source?.units ?? []);
  const pages = $derived(data.source?.pages ?? []);
  const shown = $derived(
    units.filter(({ id }) => id !== null || pages.some(({ unit }) => unit === null)),
  );
  const plan = $derived(
    planBuild(units, pages, {
      units: shown
        .filter(({ id }) => !left.includes(id))
        .map(({ id }) => ({ id, ...choiceOf(id) })),
      sections:
        sections === 'by hand'
          ? names
              .split('\n')
              .map((name) => name.trim())
              .filter(Boolean)
          : [],
    }),
  );
  const count = (unit: string | null, originals: boolean) =>
    pages.filter(
      (page) => page.unit === unit && page.area !== 'welcome' && isForCopies(page) === originals,
    ).length;
  const PLACES: [Destination, string][] = [
    ['shelf', 'to the shelf'],
    ['worktable', 'to the worktable'],
    ['cupboard', 'into the cupboard'],
    ['leave', 'stay behind'],
  ];
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
              >{klass.name} {klass.course}{klass.archived ? ', archived' : ''}</option
            >{/each}
        </optgroup>
      </select></label
    >
    {#if data.source}
      <form method="POST" use:enhance class="mt-5">
        <input type="hidden" name="from" value={data.from} />
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
        <p class="notice mt-4" role="status">{plan.sentence}</p>
        <button class="act act-main mt-4" disabled={plan.pages.length + plan.units.length === 0}
          >Bring it in</button
        >
      </form>
    {:else}<p class="mt-4 text-ink2">Choose a course or a class to bring in from.</p>{/if}
  </div>
</main>
