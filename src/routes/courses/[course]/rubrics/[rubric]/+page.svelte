<script lang="ts">
  import FileField from '$ui/fields/FileField.svelte';
  import Ellipsis from '@lucide/svelte/icons/ellipsis';
  import Plus from '@lucide/svelte/icons/plus';
  import { untrack } from 'svelte';

  import type { CellFault } from '$core/formats/rubric-table';
  import { counted } from '$core/lists/counted';
  import { RubricTable } from '$core/marking/rubric';
  import { totalOf } from '$core/marking/rubric-steps';
  import Conflict from '$ui/Conflict.svelte';
  import Menu from '$ui/shell/Menu.svelte';
  import { enhance, readAgain } from '$ui/refresh';
  import Changes from './Changes.svelte';
  import ReadTable from './ReadTable.svelte';
  import { RubricForm } from './rubric-form.svelte';

  let { data, form } = $props();
  const address = $derived(`/courses/${data.course}/rubrics/${data.rubric}`);
  const rubric = untrack(() => new RubricForm(data, address, () => readAgain('uncia:rubric')));
  const faults: CellFault[] = $derived(
    form && 'faults' in form && Array.isArray(form.faults) ? form.faults : [],
  );
  /** What a table says that was read, before it is taken over. */
  let read: RubricTable | null = $state(null);

  function takeOver() {
    if (!read) return;
    ({ levels: rubric.levels, criteria: rubric.criteria } = read);
    read = null;
    void rubric.save();
  }
</script>

{#snippet moves(
  what: string,
  list: readonly unknown[],
  at: number,
  back: string,
  on: string,
  move: (by: number) => void,
  remove: () => void,
)}
  <Menu label="More about {what}">
    {#snippet button()}<Ellipsis size={16} aria-hidden="true" />{/snippet}
    {#if at > 0}<button type="button" onclick={() => move(-1)}>{back}</button>{/if}
    {#if at < list.length - 1}<button type="button" onclick={() => move(1)}>{on}</button>{/if}
    <button type="button" onclick={remove}>Remove</button>
  </Menu>
{/snippet}

<main class="min-w-0 flex-1 overflow-auto px-5 py-5">
  <div class="mx-auto max-w-6xl">
    <div class="flex flex-wrap items-center gap-3">
      <h1 class="sr-only">{data.title}</h1>
      <input
        class="min-w-0 flex-1 border-0 border-b border-dashed border-transparent bg-transparent px-0 text-2xl font-bold hover:border-rule focus:border-quiet"
        bind:value={rubric.title}
        onchange={rubric.save}
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
              const table = result.type === 'success' ? result.data?.read : null;
              read = table ? RubricTable.parse(table) : null;
            }}
        >
          <FileField label="Import a table" name="table" accept={['.csv', '.xlsx']} asButton />
        </form>
      {/if}
    </div>
    <p class="text-ink2">
      {counted(rubric.criteria.length, 'criterion', 'criteria')}, {totalOf(rubric)} points in all{rubric.said
        ? ` · ${rubric.said}`
        : ''}
    </p>
    {#if rubric.trouble || form?.sentence}<p class="trouble mt-3" role="alert">
        {rubric.trouble || form?.sentence}
      </p>{/if}
    {#if rubric.theirs}
      <Conflict
        by={rubric.theirs.by}
        differences={rubric.differing}
        takeTheirs={() => rubric.theirs && rubric.fill(rubric.theirs)}
        saveMine={() => rubric.saveMine()}
      />
    {/if}
    {#if read}
      <ReadTable now={rubric} {read} take={takeOver} leave={() => (read = null)} />
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
            {#each rubric.levels as _, index (index)}
              <th scope="col" class="min-w-36 border border-rule px-2 py-1.5">
                <div class="flex items-center gap-1">
                  <input
                    class="w-14 border-0 border-b border-dashed border-transparent bg-transparent px-1 py-0.5 text-center font-page text-xl font-semibold hover:border-rule"
                    type="number"
                    min="0"
                    max="1000"
                    step="1"
                    aria-label="Points of level {index + 1}"
                    bind:value={rubric.levels[index]}
                    onchange={rubric.save}
                    disabled={!data.mayWrite}
                  />
                  <span class="flex-1 text-left text-sm font-normal text-ink2"
                    >{rubric.levels[index] === 1 ? 'point' : 'points'}</span
                  >
                  {#if data.mayWrite && rubric.levels.length > 1}
                    {@render moves(
                      `the level of ${rubric.levels[index]} points`,
                      rubric.levels,
                      index,
                      'Move left',
                      'Move right',
                      (by) => rubric.moveLevel(index, by),
                      () => rubric.dropLevel(index),
                    )}
                  {/if}
                </div>
              </th>
            {/each}
            {#if data.mayWrite}<td class="w-10 border border-rule"
                ><button
                  class="grid h-9 w-full place-items-center text-ink2"
                  aria-label="Add level"
                  onclick={() => rubric.addLevel()}><Plus size={18} aria-hidden="true" /></button
                ></td
              >{/if}
          </tr>
        </thead>
        <tbody>
          {#each rubric.criteria as criterion, row (criterion.id)}
            <tr>
              <th scope="row" class="border border-rule p-0 text-left align-top">
                <textarea
                  class="field-sizing-content min-h-14 w-full resize-none border-0 bg-transparent px-3 py-2 font-bold"
                  aria-label="Name of criterion {row + 1}"
                  bind:value={criterion.title}
                  onchange={rubric.save}
                  disabled={!data.mayWrite}
                  maxlength="200"></textarea>
              </th>
              {#each rubric.levels as points, index (index)}
                <td class="border border-rule p-0 align-top">
                  <textarea
                    class="field-sizing-content min-h-14 w-full resize-none border-0 bg-transparent px-3 py-2 text-sm"
                    aria-label="{criterion.title}, {points} points"
                    placeholder="…"
                    bind:value={criterion.descriptors[index]}
                    onchange={rubric.save}
                    disabled={!data.mayWrite}
                    maxlength="2000"></textarea>
                </td>
              {/each}
              {#if data.mayWrite}<td class="border border-rule align-top">
                  {@render moves(
                    criterion.title,
                    rubric.criteria,
                    row,
                    'Move up',
                    'Move down',
                    (by) => rubric.moveCriterion(row, by),
                    () => rubric.dropCriterion(row),
                  )}
                </td>{/if}
            </tr>
          {/each}
        </tbody>
      </table>
    </div>
    {#if data.mayWrite}<button class="act mt-3" onclick={() => rubric.addCriterion()}
        >Add criterion</button
      >{/if}
    <Changes
      changes={data.changes}
      version={rubric.version}
      now={data.now}
      timeZone={data.timeZone}
      mayWrite={data.mayWrite}
      done={() => {
        rubric.fill(data);
        rubric.said = 'as it was before';
      }}
    />
  </div>
</main>
