<script lang="ts">
  import type { CopyRow } from '$core/copy/copy-row';
  import { categoryIn, weightsOf } from '$core/grades/grade-line';
  import { columnKey, gradeRows } from '$core/grades/gradebook';
  import { sayRules, sayShare } from '$core/grades/say-grades';
  import { spreadOf } from '$core/grades/spread';
  import { samePoints, writePoints } from '$core/marking/points';
  import { Clock } from '$ui/clock.svelte';
  import GradeSums from '$ui/grades/GradeSums.svelte';
  import { followCopies, readAgain } from '$ui/refresh';
  import ClassViews from '$ui/shell/ClassViews.svelte';
  import Menu from '$ui/shell/Menu.svelte';
  import { arrowKeys } from '../arrow-keys';
  import ColumnPanel from './ColumnPanel.svelte';
  import Entry from './Entry.svelte';
  import RulesSheet from './RulesSheet.svelte';

  let { data } = $props();
  const clock = new Clock();
  $effect(() => clock.run(60_000));
  const { klass, students, columns, rules } = $derived(data);
  let copies: readonly CopyRow[] = $derived(data.copies);
  followCopies('uncia:gradebook', {
    classes: () => [klass.id],
    me: () => data.person?.id ?? '',
    copies: () => copies,
    patch: (next) => (copies = next),
  });
  const changed = () => readAgain('uncia:gradebook');

  const rows = $derived(
    gradeRows(
      { columns, rules },
      copies,
      students.map(({ id }) => id),
      clock.now,
    ),
  );
  const byWeights = $derived(rules.total === 'weights');
  const hasTotal = $derived(rules.total !== 'none');
  const weights = $derived(weightsOf(rules));
  /** Columns in the order of their categories, each with its heading. */
  const groups = $derived.by(() => {
    const of = (name: string) =>
      columns.flatMap((column, index) =>
        categoryIn(rules, column.category) === name
          ? [{ ...column, index, key: columnKey(column) }]
          : [],
      );
    return [
      ...rules.categories.map(({ name, weight }) => ({
        name: byWeights ? `${name} · ${writePoints(weight)} %` : name,
        columns: of(name),
      })),
      { name: rules.categories.length > 0 ? 'In no category' : '', columns: of('') },
    ].filter((group) => group.columns.length > 0);
  });
  const shown = $derived(groups.flatMap((group) => group.columns));
  const outside = $derived(
    byWeights && columns.some(({ category }) => categoryIn(rules, category) === ''),
  );
  const cellsOf = (index: number) => students.flatMap(({ id }) => rows.get(id)?.cells[index] ?? []);
  const pointsOf = (index: number) =>
    cellsOf(index).flatMap(({ kept, got }) => kept ?? (typeof got === 'object' ? got.points : []));

  let trouble = $state('');
  let changing = $state(false);
  let focused: string | null = $state(null);
  const first = $derived(`${students[0]?.id} ${shown[0]?.key}`);
  /** What the panel beside the table shows: a student, or a column. */
  let open: { student: string } | { column: string } | null = $state(null);
  const openStudent = $derived(
    open && 'student' in open
      ? (students.find(({ id }) => open && 'student' in open && id === open.student) ?? null)
      : null,
  );
  const openColumn = $derived(
    open && 'column' in open
      ? (shown.find(({ key }) => open && 'column' in open && key === open.column) ?? null)
      : null,
  );
  const total = (student: string) => rows.get(student)?.line ?? null;
  const linkOf = (student: string) => (id: string) => {
    const copy = copies.find((one) => columnKey(one) === id && one.members.includes(student));
    return copy ? `/classes/${klass.id}/marking/${copy.id}` : null;
  };

  /** Goes on to the cell below or to the right, as the arrow keys do. */
  function go(key: 'ArrowDown' | 'ArrowRight') {
    document.activeElement?.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }));
  }
</script>

<div class="flex min-h-0 flex-1 max-lg:flex-col max-lg:overflow-auto">
  <main class="flex min-w-0 flex-1 flex-col px-5 py-3 max-lg:shrink-0">
    <div class="flex flex-wrap items-center gap-x-6 gap-y-1">
      <h1 class="text-lg font-bold">{klass.name} {klass.title}</h1>
      <ClassViews klass={klass.id} leads={data.mayManage} archived={klass.archived} />
      <div class="ml-auto flex flex-wrap items-center gap-2">
        <span class="text-sm text-ink2">{sayRules(rules)}</span>
        {#if data.mayManage}<button class="act act-small" onclick={() => (changing = true)}
            >Change …</button
          >{/if}
        <Menu label="Download the gradebook" look="act act-small">
          {#snippet button()}Download{/snippet}
          <a href="/classes/{klass.id}/gradebook/table" download>Spreadsheet, .xlsx</a>
          <a href="/classes/{klass.id}/gradebook/table?as=csv" download>Table, .csv</a>
        </Menu>
      </div>
    </div>
    {#if byWeights && !samePoints(weights, '100')}<p class="notice mt-2">
        The weights of this class add up to {weights}, not 100. Each counts as its share of {weights}.
      </p>{/if}
    {#if outside}<p class="notice mt-2">What is in no category counts in no total.</p>{/if}
    {#if trouble}<p class="trouble mt-2" role="alert">{trouble}</p>{/if}
    {#if students.length === 0}<p class="mt-6 text-ink2">
        Nobody is in this class yet. Bring the roster in first.
      </p>
    {:else if columns.length === 0}<p class="mt-6 text-ink2">
        Nothing that counts points was handed out yet.
      </p>
    {:else}
      <div
        class="mt-3 min-h-0 overflow-auto border border-rule bg-sheet max-lg:max-h-[80vh]"
        role="region"
        aria-label="Gradebook of {klass.name}"
        {@attach arrowKeys}
      >
        <table class="border-separate border-spacing-0">
          <thead class="sticky top-0 z-20 bg-sheet">
            <tr>
              <th
                rowspan="2"
                scope="col"
                class="sticky left-0 z-10 min-w-44 border-r border-b border-rule bg-sheet px-2.5 py-2 text-left align-bottom"
                >Student</th
              >
              {#each groups as group (group.name)}
                <th
                  scope="colgroup"
                  colspan={group.columns.length}
                  class="border-r border-b border-rule px-2.5 py-1 text-left text-sm font-normal text-ink2"
                  >{group.name}</th
                >
              {/each}
              {#if hasTotal}<th
                  rowspan="2"
                  scope="col"
                  class="border-b border-rule bg-paper px-2.5 py-2 text-right align-bottom"
                  >Total<span class="block text-sm font-normal text-ink2">so far</span></th
                >{/if}
            </tr>
            <tr>
              {#each shown as column (column.key)}
                {@const { tenths } = spreadOf(pointsOf(column.index), column.most)}
                {@const most = Math.max(1, ...tenths)}
                <th
                  scope="col"
                  class="max-w-36 min-w-24 border-r border-b border-rule p-0 align-bottom font-bold"
                >
                  <button
                    class={[
                      'flex w-full flex-col items-end gap-0.5 px-2.5 py-1.5 text-right',
                      openColumn?.key === column.key && 'bg-ice-pale',
                    ]}
                    aria-expanded={openColumn?.key === column.key}
                    onclick={() =>
                      (open = openColumn?.key === column.key ? null : { column: column.key })}
                  >
                    <svg viewBox="0 0 60 18" class="h-4.5 w-15 fill-spruce" aria-hidden="true">
                      {#each tenths as n, at (at)}<rect
                          x={at * 6 + 0.5}
                          y={18 - (n / most) * 17}
                          width="5"
                          height={(n / most) * 17}
                          rx="1"
                        />{/each}
                    </svg>
                    <span class="line-clamp-3 wrap-anywhere">{column.title}</span>
                    <span class="text-sm font-normal text-ink2"
                      >of {writePoints(column.most)}{column.counting === 'yes'
                        ? ''
                        : column.counting === 'extra'
                          ? ', extra'
                          : ', not counted'}</span
                    >
                  </button>
                </th>
              {/each}
            </tr>
          </thead>
          <tbody>
            {#each students as student (student.id)}
              {@const line = total(student.id)}
              {@const isOpen = openStudent?.id === student.id}
              <tr>
                <th
                  scope="row"
                  class="sticky left-0 z-10 border-r border-b border-rule bg-sheet p-0 text-left font-normal"
                  ><button
                    class={[
                      'block w-full max-w-56 truncate px-2.5 py-1.5 text-left',
                      isOpen && 'bg-ice-pale',
                    ]}
                    aria-expanded={isOpen}
                    onclick={() => (open = isOpen ? null : { student: student.id })}
                    >{student.name}</button
                  ></th
                >
                {#each shown as column (column.key)}
                  {@const cell = rows.get(student.id)?.cells[column.index]}
                  {@const key = `${student.id} ${column.key}`}
                  <td class="h-[34px] border-r border-b border-rule p-0">
                    {#if cell?.copy}
                      <Entry
                        {cell}
                        most={column.most}
                        label="{student.name}, {column.title}"
                        zero={rules.missing === 'zero'}
                        marking="/classes/{klass.id}/marking/{cell.copy.id}"
                        byRubric={column.byRubric}
                        mayMark={data.mayMark}
                        tabStop={(focused ?? first) === key}
                        focus={() => (focused = key)}
                        {go}
                        {changed}
                        warn={(sentence) => (trouble = sentence)}
                      />
                    {:else}<span class="block px-2 text-right text-ink2" aria-hidden="true">–</span
                      ><span class="sr-only">no copy</span>{/if}
                  </td>
                {/each}
                {#if hasTotal}<td class="border-b border-rule bg-paper px-2.5 text-right font-bold">
                    {line?.total ? sayShare(line.total, rules.places) : '–'}{line?.grade
                      ? ` · ${line.grade}`
                      : ''}
                  </td>{/if}
              </tr>
            {/each}
          </tbody>
        </table>
      </div>
      <p class="mt-2 text-sm text-ink2">
        <span class="border-b-2 border-dotted border-ink2 italic">7½</span> is kept back: it counts once
        it is handed back.
      </p>
    {/if}
  </main>
  {#if openStudent || openColumn}
    <aside
      class="w-90 shrink-0 overflow-auto border-l border-rule bg-sheet px-4.5 py-4 max-lg:w-full max-lg:border-t max-lg:border-l-0"
      aria-label={openStudent?.name ?? openColumn?.title}
    >
      {#if openStudent}
        {@const line = total(openStudent.id)}
        <div class="flex items-start gap-3">
          <h2 class="flex-1 text-lg font-bold">{openStudent.given} {openStudent.family}</h2>
          <button class="act act-small" onclick={() => (open = null)}>Close</button>
        </div>
        <p class="text-sm text-ink2">{openStudent.given} sees this sum, too.</p>
        {#if line}<GradeSums {line} {rules} linkOf={linkOf(openStudent.id)} />{/if}
      {:else if openColumn}
        <ColumnPanel
          column={openColumn}
          cells={cellsOf(openColumn.index)}
          klass={klass.id}
          mayManage={data.mayManage}
          mayMark={data.mayMark}
          {changed}
          warn={(sentence) => (trouble = sentence)}
          close={() => (open = null)}
        />
      {/if}
    </aside>
  {/if}
</div>
{#if changing}<RulesSheet
    klass={klass.id}
    {rules}
    version={data.version}
    used={[...new Set(columns.flatMap(({ category }) => category || []))]}
    saved={changed}
    close={() => (changing = false)}
  />{/if}
