<script lang="ts">
  import FileField from '$ui/fields/FileField.svelte';
  import Plus from '@lucide/svelte/icons/plus';
  import Trash from '@lucide/svelte/icons/trash-2';
  import { untrack } from 'svelte';

  import type { CellFault } from '$core/formats/rubric-table';
  import { differences } from '$core/lists/differences';
  import { totalOf } from '$core/marking/rubric-steps';
  import type { RubricTable } from '$core/marking/rubric';
  import { describeRubric } from '$core/marking/describe-rubric';
  import Conflict from '$ui/Conflict.svelte';
  import { Refusal, send } from '$ui/send';
  import { enhance, readAgain } from '$ui/refresh';

  interface Theirs {
    title: string;
    table: RubricTable;
    version: number;
    by: string;
  }
  let { data, form } = $props();
  let title = $state(untrack(() => data.title));
  let levels = $state(untrack(() => data.table.levels));
  let criteria = $state(untrack(() => data.table.criteria));
  let said = $state('');
  let trouble = $state('');
  const total = $derived(totalOf({ levels, criteria }));

  const faults: CellFault[] = $derived(
    form && 'faults' in form && Array.isArray(form.faults) ? form.faults : [],
  );

  let version = $state(untrack(() => data.version));
  /** What somebody else saved since this was read. */
  let theirs = $state<Theirs | null>(null);
  const differing = $derived(
    theirs
      ? differences(
          describeRubric(title, { levels, criteria }),
          describeRubric(theirs.title, theirs.table),
        )
      : [],
  );

  function fill(from: Omit<Theirs, 'by'> = data) {
    ({ levels, criteria } = from.table);
    ({ title, version } = from);
    theirs = null;
  }

  async function save() {
    trouble = '';
    try {
      ({ version } = await send<{ version: number }>(
        `/courses/${data.course}/rubrics/${data.rubric}`,
        { title, table: { levels, criteria }, version },
        'PUT',
      ));
      theirs = null;
      said = 'everything is saved';
    } catch (error) {
      said = '';
      const conflict = error instanceof Refusal && error.status === 409 && error.body.theirs;
      if (conflict) return void (theirs = conflict as Theirs);
      trouble = error instanceof Error ? error.message.replace(/^.*?could not be read\. /, '') : '';
    }
  }
  function addLevel() {
    const lowest = Math.min(...levels);
    levels = [...levels, lowest > 0 ? lowest - 1 : Math.max(...levels) + 1];
    criteria = criteria.map((one) => ({ ...one, descriptors: [...one.descriptors, ''] }));
    void save();
  }
  function dropLevel(index: number) {
    levels = levels.filter((_, i) => i !== index);
    criteria = criteria.map((one) => ({
      ...one,
      descriptors: one.descriptors.filter((_, i) => i !== index),
    }));
    void save();
  }
  function addCriterion() {
    const id = crypto.randomUUID().slice(0, 8);
    const number = criteria.length + 1;
    criteria = [
      ...criteria,
      { id, title: `Criterion ${number}`, descriptors: levels.map(() => '') },
    ];
    void save();
  }
  function dropCriterion(index: number) {
    criteria = criteria.filter((_, i) => i !== index);
    void save();
  }
  const address = $derived(`/courses/${data.course}/rubrics/${data.rubric}`);
</script>

<main class="min-w-0 flex-1 overflow-auto px-5 py-5">
  <div class="mx-auto max-w-6xl">
    <div class="flex flex-wrap items-center gap-3">
      <h1 class="sr-only">{data.title}</h1>
      <input
        class="min-w-0 flex-1 border-0 border-b border-dashed border-transparent bg-transparent px-0 text-2xl font-bold hover:border-rule focus:border-quiet"
        bind:value={title}
        onchange={save}
        disabled={!data.mayWrite}
        aria-label="Title of the rubric"
        maxlength="300"
      />
      <a class="act act-small" href="{address}/table?as=xlsx" download>Download .xlsx</a>
      <a class="act act-small" href="{address}/table?as=csv" download>Download .csv</a>
      {#if data.mayWrite}
        <form method="POST" action="?/copy" use:enhance>
          <button class="act act-small">Copy</button>
        </form>
        <form
          method="POST"
          action="?/read"
          enctype="multipart/form-data"
          use:enhance={() =>
            async ({ update, result }) => {
              await update();
              if (result.type !== 'success') return;
              await readAgain();
              fill();
              said = 'read from the table';
            }}
        >
          <FileField label="Import a table" name="table" accept={['.csv', '.xlsx']} asButton />
        </form>
      {/if}
    </div>
    <p class="text-ink2">
      {criteria.length === 1 ? '1 criterion' : `${criteria.length} criteria`}, {total} points in all{said
        ? ` · ${said}`
        : ''}
    </p>
    {#if trouble || form?.sentence}<p class="trouble mt-3" role="alert">
        {trouble || form?.sentence}
      </p>{/if}
    {#if theirs}
      <Conflict
        by={theirs.by}
        differences={differing}
        takeTheirs={() => theirs && fill(theirs)}
        saveMine={() => {
          version = theirs?.version ?? version;
          void save();
        }}
      />
    {/if}
    {#if faults.length > 0}
      <ul class="mt-2 columns-2 text-sm max-md:columns-1">
        {#each faults as fault, index (index)}
          <li><strong>{fault.cell}</strong>: {fault.says}</li>
        {/each}
      </ul>
    {/if}
    <div class="mt-4 overflow-x-auto">
      <table class="w-full border-collapse border border-rule bg-sheet align-top">
        <thead>
          <tr>
            <th
              scope="col"
              class="w-48 border border-rule px-3 py-2 text-left text-sm font-normal text-ink2"
              >Criterion</th
            >
            {#each levels as _, index (index)}
              <th scope="col" class="min-w-36 border border-rule px-2 py-1.5">
                <div class="flex items-center gap-1">
                  <input
                    class="w-14 border-0 border-b border-dashed border-transparent bg-transparent px-1 py-0.5 text-center font-page text-xl font-semibold hover:border-rule"
                    type="number"
                    min="0"
                    max="1000"
                    step="1"
                    aria-label="Points of level {index + 1}"
                    bind:value={levels[index]}
                    onchange={save}
                    disabled={!data.mayWrite}
                  />
                  <span class="flex-1 text-left text-sm font-normal text-ink2"
                    >{levels[index] === 1 ? 'point' : 'points'}</span
                  >
                  {#if data.mayWrite && levels.length > 1}<button
                      class="rounded p-1 text-ink2"
                      aria-label="Remove the level of {levels[index]} points"
                      onclick={() => dropLevel(index)}
                      ><Trash size={15} aria-hidden="true" /></button
                    >{/if}
                </div>
              </th>
            {/each}
            {#if data.mayWrite}<td class="w-10 border border-rule"
                ><button
                  class="grid h-9 w-full place-items-center text-ink2"
                  aria-label="Add level"
                  onclick={addLevel}><Plus size={18} aria-hidden="true" /></button
                ></td
              >{/if}
          </tr>
        </thead>
        <tbody>
          {#each criteria as criterion, row (criterion.id)}
            <tr>
              <th scope="row" class="border border-rule p-0 text-left align-top">
                <textarea
                  class="field-sizing-content min-h-14 w-full resize-none border-0 bg-transparent px-3 py-2 font-bold"
                  aria-label="Name of criterion {row + 1}"
                  bind:value={criterion.title}
                  onchange={save}
                  disabled={!data.mayWrite}
                  maxlength="200"></textarea>
              </th>
              {#each levels as points, index (index)}
                <td class="border border-rule p-0 align-top">
                  <textarea
                    class="field-sizing-content min-h-14 w-full resize-none border-0 bg-transparent px-3 py-2 text-sm"
                    aria-label="{criterion.title}, {points} points"
                    placeholder="…"
                    bind:value={criterion.descriptors[index]}
                    onchange={save}
                    disabled={!data.mayWrite}
                    maxlength="2000"></textarea>
                </td>
              {/each}
              {#if data.mayWrite}<td class="border border-rule align-top"
                  ><button
                    class="grid h-9 w-full place-items-center text-ink2"
                    aria-label="Remove {criterion.title}"
                    onclick={() => dropCriterion(row)}
                    ><Trash size={15} aria-hidden="true" /></button
                  ></td
                >{/if}
            </tr>
          {/each}
        </tbody>
      </table>
    </div>
    {#if data.mayWrite}<button class="act mt-3" onclick={addCriterion}>Add criterion</button>{/if}
  </div>
</main>
