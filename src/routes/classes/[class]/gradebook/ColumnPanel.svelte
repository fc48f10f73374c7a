<script lang="ts">
  import type { Counting } from '$core/grades/grade-line';
  import type { GradeColumn, GradeCell } from '$core/grades/gradebook';
  import { spreadOf } from '$core/grades/spread';
  import { counted } from '$core/lists/counted';
  import { writePoints } from '$core/marking/points';
  import Choice from '$ui/fields/Choice.svelte';
  import { handBackKept } from '$ui/marking/hand-back-kept';
  import { send } from '$ui/send';
  import Spread from './Spread.svelte';

  interface Props {
    column: GradeColumn;
    cells: readonly GradeCell[];
    klass: string;
    mayManage: boolean;
    mayMark: boolean;
    changed: () => Promise<void>;
    warn: (sentence: string) => void;
    close: () => void;
  }
  let { column, cells, klass, mayManage, mayMark, changed, warn, close }: Props = $props();

  const HOW = [
    ['yes', 'Counts'],
    ['extra', 'Extra points'],
    ['no', 'Does not count'],
  ] as const;
  const points = $derived(
    cells.flatMap(({ kept, got }) => kept ?? (typeof got === 'object' ? got.points : [])),
  );
  /** Copies, each once, though several may share one. */
  const copiesOf = (which: (cell: GradeCell) => boolean) => [
    ...new Set(cells.filter(which).flatMap(({ copy }) => copy?.id ?? [])),
  ];
  const kept = $derived(copiesOf((cell) => cell.kept !== null));
  const toMark = $derived(copiesOf((cell) => cell.says === 'to mark' && cell.kept === null));
  let done = $state<number | null>(null);

  async function count(counting: Counting) {
    try {
      await send(
        `/classes/${klass}/assignments/${column.assignment}/counting`,
        { counting },
        'PUT',
      );
      warn('');
    } catch (error) {
      warn(error instanceof Error ? error.message : '');
    }
    await changed();
  }
  async function handBack() {
    done = 0;
    warn((await handBackKept(kept, (n) => (done = n))) ?? '');
    done = null;
    await changed();
  }
</script>

<div class="flex items-start gap-3">
  <h2 class="flex-1 text-lg font-bold">
    <a
      class="text-ink no-underline hover:text-spruce"
      href="/classes/{klass}/assignments/{column.assignment}">{column.title}</a
    >
  </h2>
  <button class="act act-small" onclick={close}>Close</button>
</div>
<p class="text-sm text-ink2">
  of {writePoints(column.most)}{column.category ? ` · ${column.category}` : ''}{column.byRubric
    ? ' · scored by its rubric'
    : ''}
</p>
<Spread spread={spreadOf(points, column.most)} title={column.title} />
{#if kept.length > 0}
  <p class="mt-3">
    {counted(kept.length, 'copy has', 'copies have')} points that are kept back: no student sees them,
    and they are in no total.
  </p>
  {#if mayMark}<button class="act act-main mt-2" disabled={done !== null} onclick={handBack}
      >{done === null
        ? `Hand back ${kept.length}`
        : `${done} of ${kept.length} handed back`}</button
    >{/if}
{/if}
{#if toMark.length > 0}
  <p class="mt-3">
    {counted(toMark.length, 'copy waits', 'copies wait')} for marking.
    <a class="act act-small" href="/classes/{klass}/assignments/{column.assignment}/marking"
      >{mayMark ? 'Mark' : 'Open'}</a
    >
  </p>
{/if}
{#if mayManage}
  <p class="label mt-4">In the total of each student</p>
  <Choice
    label="In the total of each student"
    options={HOW}
    bind:value={() => column.counting, (counting) => void count(counting)}
  />
{/if}
