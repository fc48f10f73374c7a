<script lang="ts">
  import { page } from '$app/state';
  import { asksForWork, standsForEach, stateOf } from '$core/copy/state';
  import type { CopyRow } from '$core/copy/copy-row';
  import { gapsNow } from '$core/headcount/gap';
  import { listed } from '$core/lists/listed';
  import { Clock } from '$ui/clock.svelte';
  import Choice from '$ui/fields/Choice.svelte';
  import { enhance, followCopies, readAgain } from '$ui/refresh';
  import ClassViews from '$ui/shell/ClassViews.svelte';
  import TermLine from '$ui/shell/TermLine.svelte';
  import { when } from '$core/calendar/say-time';
  import { arrowKeys } from './arrow-keys';
  import { cellsOf, fullLabel, secondLine, stretchesOf, type BoardCell } from './board-cells';
  import Cell from './Cell.svelte';
  import Counts from './Counts.svelte';
  import Mend from './Mend.svelte';
  import { Mended } from './mended.svelte';
  import Peek from './Peek.svelte';

  let { data } = $props();
  const clock = new Clock();
  $effect(() => clock.run(5000));

  const { board, klass } = $derived(data);
  let rows: readonly CopyRow[] = $derived(board.copies);
  $effect(() =>
    followCopies('uncia:board', {
      classes: [klass.id],
      me: data.person?.id ?? '',
      copies: () => rows,
      patch: (next) => (rows = next),
    }),
  );
  let order: 'name' | 'begun' = $state(
    page.url.searchParams.get('order') === 'begun' ? 'begun' : 'name',
  );
  let show: 'all' | 'gaps' = $state(page.url.searchParams.get('show') === 'gaps' ? 'gaps' : 'all');
  /** The cell whose gap is open. */
  let mending: string | null = $state(null);
  const mended = new Mended(() => readAgain('uncia:board'));
  /** The cell whose peek is open: a student, and their copy or one that they share. */
  let chosen: { student: string; copy: string } | null = $state(null);
  const keyOf = (student: string, { id, for: page }: { id: string; for: string }) =>
    `${student} ${id} ${page}`;

  const copies = $derived(
    new Map(
      rows.flatMap((copy) =>
        cellsOf(copy, clock.now).map(
          ([student, cell]) =>
            [keyOf(student, { id: copy.assignment, for: copy.for }), cell] as const,
        ),
      ),
    ),
  );
  const all = $derived([...new Set(copies.values())]);
  const isChosen = (student: string, copy: BoardCell) =>
    chosen?.copy === copy.id && (!standsForEach(copy) || chosen.student === student);
  const chosenCopy = $derived(
    [...copies].find(
      ([key, copy]) => chosen && key.startsWith(chosen.student) && isChosen(chosen.student, copy),
    )?.[1] ?? null,
  );

  const gaps = $derived(gapsNow(data.counts, rows));
  const gapAt = $derived(
    new Map(
      gaps.flatMap((gap) =>
        gap.students.map(
          (student) => [keyOf(student, { id: gap.assignment, for: gap.for }), gap] as const,
        ),
      ),
    ),
  );
  const openGap = $derived(mending === null ? null : (gapAt.get(mending) ?? null));
  const nameOf = (ids: readonly string[]) =>
    listed(
      board.students
        .filter(({ id }) => ids.includes(id))
        .map(({ given, family }) => `${given} ${family}`),
    );
  const GAP_SAYS = { 'never made': 'no copy', removed: 'removed', emptied: 'emptied' } as const;
  function openMend(key: string) {
    chosen = null;
    mending = mending === key ? null : key;
  }
  const begun = (student: string) =>
    board.assignments.reduce((sum, column) => {
      const copy = copies.get(keyOf(student, column));
      return sum + (copy ? (copy.facts.written ?? 0) : 0);
    }, 0);
  const inOrder = $derived(
    order === 'name'
      ? board.students
      : [...board.students].sort((a, b) => begun(a.id) - begun(b.id)),
  );
  const students = $derived(
    show === 'all'
      ? inOrder
      : inOrder.filter(({ id }) => gaps.some((gap) => gap.students.includes(id))),
  );
  const hasGap = (column: { id: string; for: string }) =>
    gaps.some((gap) => gap.assignment === column.id && gap.for === column.for);
  /** Units in order, each with its assignments; what has no unit comes last. */
  const units = $derived(
    [...board.units, { id: null, title: 'No unit' }]
      .map((unit) => ({
        ...unit,
        assignments: board.assignments.filter(
          (column) => column.unit === unit.id && (show === 'all' || hasGap(column)),
        ),
      }))
      .filter((unit) => unit.assignments.length > 0),
  );
  /** An assignment of several pages is due once. */
  const dues = $derived(
    board.assignments.flatMap(({ id, title, due }, index) =>
      due === null || board.assignments.findIndex((one) => one.id === id) < index
        ? []
        : [{ id, title, at: due }],
    ),
  );
  const columns = $derived(units.flatMap((unit) => unit.assignments));

  const writing = $derived(all.filter((copy) => copy.flags.now).length);
  const toMark = $derived(rows.filter(({ facts }) => stateOf(facts) === 'handed in').length);
  const unopened = $derived(
    all.filter(
      (copy) => asksForWork(copy) && (copy.state === 'unopened' || copy.state === 'opened'),
    ).length,
  );

  const stretch = (column: { id: string; for: string }) =>
    stretchesOf(all.filter((copy) => copy.assignment === column.id && copy.for === column.for));
  const sayWhen = (at: number) => when(at, clock.now, klass.time_zone);

  const NO_COPY = { mask: '', state: 'opened', flags: {}, points: null } as const;
  let focused: string | null = $state(null);
  /** One cell of the board is reached by Tab; the arrow keys go on from there. */
  const tabStop = $derived.by(() => {
    const inCells = students.flatMap(({ id: student }) =>
      columns.flatMap((column) => {
        const key = keyOf(student, column);
        return copies.has(key) || gapAt.has(key) ? [key] : [];
      }),
    );
    return inCells.find((key) => key === focused) ?? inCells[0];
  });
</script>

<svelte:window onkeydown={(event) => event.key === 'Escape' && (chosen = mending = null)} />

<TermLine term={data.term} now={clock.now} timeZone={klass.time_zone} due={dues} />
<div class="flex min-h-0 flex-1">
  <main class="flex min-w-0 flex-1 flex-col px-4 py-2.5">
    <div class="mb-2.5 flex flex-wrap items-center gap-x-4 gap-y-2">
      <h1 class="text-lg font-bold">{klass.name} {klass.title}</h1>
      <ClassViews klass={klass.id} leads={data.mayHandOut} archived={klass.archived} />
      <p class="text-sm text-ink2" aria-live="polite">
        {writing} writing now · {unopened} not begun · {toMark} to mark
      </p>
      <span class="flex-1"></span>
      {#if gaps.length > 0 || show === 'gaps'}
        <Choice
          label="What the board shows"
          options={[
            ['all', 'All work'],
            ['gaps', `Gaps ${gaps.length}`],
          ]}
          bind:value={show}
        />
      {/if}
      {#if data.mayHandOut}
        <a class="act act-small" href="/classes/{klass.id}/hand-out">Hand out something</a>
      {/if}
    </div>
    {#if data.opening.opened === null}
      <div class="notice mb-2.5 flex flex-wrap items-center gap-3">
        <p class="flex-1">
          <strong>{klass.name} is closed.</strong> Its students see nothing of it{data.opening
            .opens === null
            ? ''
            : `; it opens by itself ${when(data.opening.opens, clock.now, klass.time_zone)}`}.
        </p>
        {#if data.mayHandOut}<form
            method="POST"
            action="/classes/{klass.id}/plan?/open"
            use:enhance={() => () => readAgain('uncia:board')}
          >
            <button class="act act-small act-main">Open {klass.name} now</button>
          </form>{/if}
      </div>
    {/if}
    {#if mended.last}
      <p class="notice mb-2.5 flex items-center gap-3" role="status">
        <span class="flex-1">{mended.last.says}</span>
        <button class="act act-small" onclick={mended.undo}>Undo</button>
      </p>
    {/if}
    {#if show === 'gaps'}
      <Counts
        counts={data.counts}
        {gaps}
        klass={klass.id}
        mayMend={data.mayMend}
        {nameOf}
        mended={mended.say}
      />
    {/if}
    {#if show === 'gaps' && gaps.length === 0}
      <p class="notice max-w-2xl">Every copy that should be there is, with its work.</p>
    {:else if columns.length === 0}
      <div class="notice max-w-2xl">
        <p class="font-bold">Nothing is handed out in {klass.name} yet.</p>
        <p class="mt-1">
          From an original, every one of the {board.students.length} students gets a copy.
        </p>
        {#if data.mayHandOut}
          <p class="mt-3">
            <a class="act act-main" href="/classes/{klass.id}/hand-out">Choose an original</a>
          </p>
        {/if}
      </div>
    {:else}
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
                <button
                  class="ml-1 min-h-6 text-sm font-normal text-ink2 underline"
                  onclick={() => (order = order === 'name' ? 'begun' : 'name')}
                >
                  {order === 'name' ? 'by name' : 'least begun first'}
                </button>
              </th>
              {#each units as unit (unit.id)}
                <th
                  scope="colgroup"
                  colspan={unit.assignments.length}
                  class="border-r border-b border-rule px-2.5 py-1 text-left text-sm font-normal text-ink2"
                  >{unit.title}</th
                >
              {/each}
            </tr>
            <tr>
              {#each columns as assignment (`${assignment.id} ${assignment.for}`)}
                <th
                  scope="col"
                  class="max-w-48 min-w-36 border-r border-b border-rule px-2.5 py-2 text-left align-bottom font-bold"
                >
                  <a
                    class="line-clamp-3 wrap-anywhere text-ink no-underline hover:text-spruce"
                    href="/classes/{klass.id}/assignments/{assignment.id}">{assignment.title}</a
                  >
                  {#if assignment.page}<span class="block text-sm">{assignment.page}</span>{/if}
                  <span class="block text-sm font-normal text-ink2">
                    {assignment.delivery === 'to read'
                      ? 'to read'
                      : assignment.due === null
                        ? 'no due time'
                        : `${assignment.due < clock.now ? 'was due' : 'due'} ${when(assignment.due, clock.now, klass.time_zone)}`}
                  </span>
                  <span
                    class="mt-1 flex h-1.5 overflow-hidden rounded-full bg-rule"
                    aria-hidden="true"
                  >
                    {#each stretch(assignment) as part (part.color)}<span
                        style:width="{part.share}%"
                        style:background={part.color}
                      ></span>{/each}
                  </span>
                </th>
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
                    class="block max-w-56 truncate text-ink no-underline hover:text-spruce"
                    href="/classes/{klass.id}/workbook/{student.id}">{student.name}</a
                  ></th
                >
                {#each columns as assignment (`${assignment.id} ${assignment.for}`)}
                  {@const key = keyOf(student.id, assignment)}
                  {@const copy = copies.get(key)}
                  {@const gap = gapAt.get(key)}
                  <td class="h-[38px] border-r border-b border-rule p-0">
                    {#if gap}
                      <Cell
                        copy={copy
                          ? { ...copy, says: GAP_SAYS[gap.cause] }
                          : { ...NO_COPY, says: GAP_SAYS[gap.cause] }}
                        gap
                        label="{student.name}, {assignment.title}: {GAP_SAYS[gap.cause]}, a gap"
                        second={gap.since === null ? '' : sayWhen(gap.since)}
                        chosen={mending === key}
                        tabStop={tabStop === key}
                        choose={() => openMend(key)}
                        focus={() => (focused = key)}
                      />
                    {:else if copy}
                      <Cell
                        {copy}
                        label={fullLabel(student.name, assignment.title, copy)}
                        second={secondLine(copy, sayWhen)}
                        chosen={isChosen(student.id, copy)}
                        tabStop={tabStop === key}
                        choose={() => {
                          mending = null;
                          chosen = isChosen(student.id, copy)
                            ? null
                            : { student: student.id, copy: copy.id };
                        }}
                        focus={() => (focused = key)}
                      />
                    {:else}
                      <span class="px-3 text-sm text-ink2"
                        >{#if assignment.leftOut.includes(student.id)}<span aria-hidden="true"
                            >–</span
                          ><span class="sr-only">gets nothing of it</span>{:else}no copy{/if}</span
                      >
                    {/if}
                  </td>
                {/each}
              </tr>
            {/each}
          </tbody>
        </table>
      </div>
    {/if}
  </main>
  {#if openGap}
    <Mend
      gap={openGap}
      who={nameOf(openGap.students)}
      title={board.assignments.find(({ id }) => id === openGap.assignment)?.title ?? ''}
      {klass}
      mayMend={data.mayMend}
      mended={(says, undo) => {
        mending = null;
        mended.say(says, undo);
      }}
      close={() => {
        mending = null;
        void readAgain('uncia:board');
      }}
    />
  {:else if chosenCopy}
    {@const student = board.students.find(({ id }) => id === chosen?.student)}
    {@const assignment = board.assignments.find(({ id }) => id === chosenCopy.assignment)}
    {#if student && assignment}
      <Peek
        mayMark={data.mayMark}
        copy={chosenCopy}
        {student}
        {assignment}
        {klass}
        now={clock.now}
        close={() => (chosen = null)}
      />
    {/if}
  {/if}
</div>
