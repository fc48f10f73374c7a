<script lang="ts">
  import ChevronsLeftRight from '@lucide/svelte/icons/chevrons-left-right';
  import ChevronsRightLeft from '@lucide/svelte/icons/chevrons-right-left';
  import { sayOrder } from '$core/board/arrange';
  import { standsForEach } from '$core/copy/state';
  import { when } from '$core/calendar/say-time';
  import { gapKey, type Gap } from '$core/headcount/gap';
  import { CAUSE_IN_CELL } from '$core/headcount/say-gap';
  import { arrowKeys } from './arrow-keys';
  import { cellKey, columnKey, stretchesOf, type BoardCell } from './board-cells';
  import type { BoardModel, Column } from './board-model.svelte';
  import type { ViewInAddress } from './board-view.svelte';
  import Cell from './Cell.svelte';
  import { wordsIn } from './cell-words';
  import type { HoursOfClass } from './hours-of-class.svelte';
  import type { PageData } from './$types';

  interface Props {
    data: PageData;
    view: ViewInAddress;
    model: BoardModel;
    hours: HoursOfClass;
    now: number;
    /** The cell whose peek or gap is open. */
    open: { student: string; copy: string } | { gap: string } | null;
    peek: (student: string, copy: string) => void;
    mend: (gap: Gap) => void;
  }
  let { data, view, model, hours, now, open, peek, mend }: Props = $props();

  const { klass, groupings } = $derived(data);
  const { lens, order } = $derived(view.now);
  const { students, units, columns } = $derived(model);
  const sayWhen = (at: number) => when(at, now, klass.time_zone);

  const isOpen = (student: string, copy: BoardCell) =>
    open !== null &&
    'copy' in open &&
    open.copy === copy.id &&
    (!standsForEach(copy) || open.student === student);

  const NO_COPY = { mask: '', state: 'opened', flags: {}, points: null } as const;

  let focused: string | null = $state(null);
  /** One cell of the board is reached by Tab; the arrow keys go on from there. */
  const tabStop = $derived.by(() => {
    const inCells = students.flatMap(({ id }) =>
      columns.flatMap((column) =>
        model.cellAt(id, column) || model.gapIn(id, column) ? [cellKey(id, column)] : [],
      ),
    );
    return inCells.find((key) => key === focused) ?? inCells[0];
  });

  const fold = (column: Column) =>
    view.choose({ open: view.now.open.filter((one) => one !== columnKey(column)) });
  const unfold = (column: Column) => view.choose({ open: [...view.now.open, columnKey(column)] });
  const sayDue = ({ delivery, due }: Column) => {
    if (delivery === 'to read') return 'to read';
    return due === null ? 'no due time' : `${due < now ? 'was due' : 'due'} ${sayWhen(due)}`;
  };
</script>

<!-- svelte-ignore a11y_no_noninteractive_tabindex (it scrolls) -->
<div
  class="min-h-0 overflow-auto border border-rule bg-sheet"
  tabindex="0"
  role="region"
  aria-label="Board of {klass.name}"
  {@attach arrowKeys}
>
  <table class="w-full border-separate border-spacing-0 text-[15px]">
    <thead class="sticky top-0 z-20 bg-sheet">
      <tr>
        <th
          rowspan="2"
          scope="col"
          class="sticky left-0 z-10 border-r border-b border-rule bg-sheet px-2.5 py-2 text-left align-bottom font-bold"
        >
          Student
          <span class="ml-1 text-sm font-normal text-ink2">{sayOrder(order, groupings)}</span>
        </th>
        {#each units as unit (unit.id)}
          <th
            scope="colgroup"
            colspan={unit.columns.length}
            class="max-w-0 truncate border-r border-b border-rule px-2.5 py-1 text-left text-sm font-normal text-ink2"
            title={unit.title}>{unit.title}</th
          >
        {/each}
        {#if lens === 'points'}<th
            rowspan="2"
            scope="col"
            class="border-b border-rule px-2.5 py-2 text-left align-bottom font-bold">Total</th
          >{/if}
      </tr>
      <tr>
        {#each columns as column (columnKey(column))}
          {#if model.isFolded(column)}
            <th
              scope="col"
              class="relative h-36 w-12 max-w-12 min-w-12 border-r border-b border-rule"
            >
              <button
                class="absolute inset-0 flex flex-col items-center justify-end gap-1 overflow-hidden pb-2 hover:text-spruce"
                onclick={() => unfold(column)}
                aria-label="{column.title}, finished: unfold"
                title="{column.title}: unfold"
              >
                <span class="max-h-28 rotate-180 truncate [writing-mode:vertical-rl]"
                  >{column.title}</span
                >
                <ChevronsLeftRight size={14} aria-hidden="true" />
              </button>
            </th>
          {:else}
            <th
              scope="col"
              class={[
                'max-w-48 border-r',
                lens === 'points' ? 'min-w-28' : 'min-w-36',
                'border-b border-rule px-2.5 py-2 text-left align-bottom font-bold',
              ]}
            >
              <a
                class="line-clamp-3 wrap-anywhere text-ink no-underline hover:text-spruce"
                href="/classes/{klass.id}/assignments/{column.id}">{column.title}</a
              >
              {#if column.page}<span class="block text-sm">{column.page}</span>{/if}
              <span class="flex items-center gap-1 text-sm font-normal text-ink2">
                <span class="min-w-0 flex-1">{sayDue(column)}</span>
                {#if lens === 'work' && model.isFinished(column)}<button
                    class="grid size-6 place-items-center hover:text-spruce"
                    onclick={() => fold(column)}
                    aria-label="Fold {column.title}"
                    title="Fold"><ChevronsRightLeft size={14} aria-hidden="true" /></button
                  >{/if}
              </span>
              <span class="mt-1 flex h-1.5 overflow-hidden rounded-full bg-rule" aria-hidden="true">
                {#each stretchesOf(model.cellsIn(column)) as part (part.color)}<span
                    style:width="{part.share}%"
                    style:background={part.color}
                  ></span>{/each}
              </span>
            </th>
          {/if}
        {/each}
      </tr>
    </thead>
    <tbody>
      {#each students as student (student.id)}
        <tr>
          <th
            scope="row"
            class="sticky left-0 z-10 border-r border-b border-rule bg-sheet px-2.5 py-0 text-left font-normal"
            ><a
              class="block max-w-56 truncate py-1 text-ink no-underline hover:text-spruce"
              href="/classes/{klass.id}/workbook/{student.id}">{student.name}</a
            ></th
          >
          {#each columns as column (columnKey(column))}
            {@const key = cellKey(student.id, column)}
            {@const cell = model.cellAt(student.id, column)}
            {@const gap = model.gapIn(student.id, column)}
            <td class="h-[38px] border-r border-b border-rule p-0">
              {#if gap}
                <Cell
                  copy={cell ?? NO_COPY}
                  gap
                  folded={model.isFolded(column)}
                  words={{
                    first: CAUSE_IN_CELL[gap.cause],
                    second: gap.since === null ? '' : sayWhen(gap.since),
                    label: `${student.name}, ${column.title}: ${CAUSE_IN_CELL[gap.cause]}, a gap`,
                  }}
                  chosen={open !== null && 'gap' in open && open.gap === gapKey(gap)}
                  tabStop={tabStop === key}
                  choose={() => mend(gap)}
                  focus={() => (focused = key)}
                />
              {:else if cell}
                <Cell
                  copy={cell}
                  words={wordsIn(lens, {
                    student,
                    assignment: column,
                    cell,
                    hours: hours.of(cell.id, student.id),
                    now,
                    sayWhen,
                  })}
                  folded={model.isFolded(column)}
                  chosen={isOpen(student.id, cell)}
                  tabStop={tabStop === key}
                  choose={() => peek(student.id, cell.id)}
                  focus={(byKeys) => {
                    focused = key;
                    // A peek goes along with the arrow keys.
                    if (byKeys && open && 'copy' in open && !isOpen(student.id, cell))
                      peek(student.id, cell.id);
                  }}
                />
              {:else if !model.cells.has(key)}
                <span class="px-3 text-sm text-ink2"
                  >{#if column.leftOut.includes(student.id)}<span aria-hidden="true">–</span><span
                      class="sr-only">gets nothing of it</span
                    >{:else}no copy{/if}</span
                >
              {/if}
            </td>
          {/each}
          {#if lens === 'points'}
            {@const sum = model.totals.get(student.id)}
            <td class="border-b border-rule px-2.5 text-sm whitespace-nowrap" title={sum?.says}
              ><strong>{sum?.total ?? '–'}</strong>{sum?.grade ? ` · ${sum.grade}` : ''}</td
            >
          {/if}
        </tr>
      {/each}
    </tbody>
  </table>
</div>
