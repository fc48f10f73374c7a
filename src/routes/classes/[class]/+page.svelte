<script lang="ts">
  import { untrack } from 'svelte';
  import { asksForWork, standsForEach, stateOf } from '$core/copy/state';
  import type { CopyRow } from '$core/copy/copy-row';
  import { counted } from '$core/lists/counted';
  import { listed } from '$core/lists/listed';
  import { Clock } from '$ui/clock.svelte';
  import { enhance, followCopies, readAgain } from '$ui/refresh';
  import ClassViews from '$ui/shell/ClassViews.svelte';
  import { Mended } from '$ui/mended.svelte';
  import type { CellToRemind } from '$ui/remind/cell-to-remind';
  import Remind from '$ui/remind/Remind.svelte';
  import TermLine from '$ui/shell/TermLine.svelte';
  import { when } from '$core/calendar/say-time';
  import { confirmDone } from '$ui/shell/toasts.svelte';
  import { cellKey, type BoardCell } from './board-cells';
  import { BoardModel } from './board-model.svelte';
  import { ViewInAddress } from './board-view.svelte';
  import BoardBar from './BoardBar.svelte';
  import BoardTable from './BoardTable.svelte';
  import { HoursOfClass } from './hours-of-class.svelte';
  import { gapKey, type Gap } from '$core/headcount/gap';
  import { GapsElsewhere } from './gaps-elsewhere.svelte';
  import GapList from './gaps/GapList.svelte';
  import type { Chosen, Outcome } from './gaps/mend-gaps';
  import MendOne from './gaps/MendOne.svelte';
  import MendSeveral from './gaps/MendSeveral.svelte';
  import Peek from './Peek.svelte';

  let { data } = $props();
  const clock = new Clock();
  $effect(() => clock.run(5000));

  const { board, klass } = $derived(data);
  let rows: readonly CopyRow[] = $derived(board.copies);
  /** What time it is on the board. */
  const time = {
    get now() {
      return data.at ?? clock.now;
    },
  };
  /** How it stood once does not change any more. */
  const isPast = $derived(data.at !== null);
  followCopies('uncia:board', {
    classes: () => (isPast ? [] : [klass.id]),
    me: () => data.person?.id ?? '',
    copies: () => (isPast ? [] : rows),
    patch: (next) => (rows = next),
  });
  const view = new ViewInAddress();
  const elsewhere = untrack(() => new GapsElsewhere(klass.id));
  $effect(() => {
    // Read again with the board: what stood once is not gone through.
    void data;
    if (data.at === null) void elsewhere.read();
  });
  const model = untrack(
    () =>
      new BoardModel(
        () => data,
        () => rows,
        time,
        view,
        elsewhere,
      ),
  );
  const hours = untrack(() => new HoursOfClass(klass.id, () => data.at));
  $effect(() => (view.now.lens === 'hours' ? hours.follow() : undefined));

  /** The gap that is open, by its key; or several that are to be closed at once. */
  let mending: string | null = $state(null);
  let closing: readonly Chosen[] | null = $state.raw(null);
  /** What could not be closed, a sentence each. */
  let refused: readonly string[] = $state.raw([]);
  const mended = new Mended(() => readAgain('uncia:board'));
  /** The cell whose peek is open: a student, and their copy or one that they share. */
  let chosen: { student: string; copy: string } | null = $state(null);
  /** Whom a reminder is being written to; null for none. */
  let reminding: readonly CellToRemind[] | null = $state.raw(null);
  const toRemind = $derived(new Set(model.toRemind.map(({ student }) => student)).size);
  const { gaps, all } = $derived(model);
  const isChosen = (student: string, copy: BoardCell) =>
    chosen?.copy === copy.id && (!standsForEach(copy) || chosen.student === student);
  const chosenCopy = $derived(
    [...model.cells].find(
      ([key, copy]) => chosen && key.startsWith(chosen.student) && isChosen(chosen.student, copy),
    )?.[1] ?? null,
  );

  const openGap = $derived(gaps.find((gap) => gapKey(gap) === mending) ?? null);
  const titleOf = (id: string) => board.assignments.find((one) => one.id === id)?.title ?? '';
  const nameOf = (ids: readonly string[]) =>
    listed([
      ...board.students
        .filter(({ id }) => ids.includes(id))
        .map(({ given, family }) => `${given} ${family}`),
      ...ids.flatMap((id) => data.goneNames[id] ?? []),
    ]);
  function openMend(gap: Gap) {
    chosen = closing = null;
    mending = mending === gapKey(gap) ? null : gapKey(gap);
  }
  function closeSeveral(some: readonly Chosen[]) {
    chosen = mending = null;
    closing = some;
  }
  function takeOutcome({ says, undo, troubles }: Outcome) {
    mending = closing = null;
    refused = troubles;
    if (undo) mended.say(says, undo);
    else {
      confirmDone(says);
      void readAgain('uncia:board');
    }
  }
  const cellsOf = (assignment: string) => {
    const columns = board.assignments.filter(({ id }) => id === assignment);
    return board.students.flatMap(({ id }) => {
      const column = columns.find((one) => !one.leftOut.includes(id));
      return column ? [{ student: id, cell: model.cells.get(cellKey(id, column)) ?? null }] : [];
    });
  };
  /** An assignment of several pages is due once. */
  const dues = $derived(
    board.assignments.flatMap(({ id, title, due }, index) =>
      due === null || board.assignments.findIndex((one) => one.id === id) < index
        ? []
        : [{ id, title, at: due }],
    ),
  );

  const writing = $derived(all.filter((copy) => copy.flags.now).length);
  const toMark = $derived(rows.filter(({ facts }) => stateOf(facts) === 'handed in').length);
  const unopened = $derived(
    all.filter(
      (copy) => asksForWork(copy) && (copy.state === 'unopened' || copy.state === 'opened'),
    ).length,
  );
  function openPeek(student: string, copy: string) {
    mending = closing = null;
    const again = chosenCopy?.id === copy && isChosen(student, chosenCopy);
    chosen = again ? null : { student, copy };
  }
</script>

<svelte:window
  onkeydown={(event) => event.key === 'Escape' && (chosen = mending = closing = null)}
/>

<TermLine
  term={data.term}
  now={clock.now}
  timeZone={klass.time_zone}
  due={dues}
  at={data.at}
  look={(at) => view.choose({ at })}
/>
<div class="flex min-h-0 flex-1">
  <main class="flex min-w-0 flex-1 flex-col px-4 py-2.5">
    <div class="mb-2.5 flex flex-wrap items-center gap-x-4 gap-y-2">
      <h1 class="text-lg font-bold max-2xl:sr-only">{klass.name} {klass.title}</h1>
      <ClassViews klass={klass.id} leads={data.mayHandOut} archived={klass.archived} />
      <p class="text-sm text-ink2" aria-live="polite">
        {#if view.chosen > 0}
          {model.students.length} of {counted(board.students.length, 'student')}
          <button class="ml-1 min-h-6 text-ink underline" onclick={() => view.clear()}
            >Show everything</button
          >
          {#if data.at === null && data.mayHandOut && toRemind > 0}<button
              class="ml-1 min-h-6 text-ink underline"
              aria-label="Remind {counted(toRemind, 'student')}"
              onclick={() => (reminding = model.toRemind)}>Remind {toRemind} …</button
            >{/if}
        {:else}
          {writing} writing now · {unopened} not begun · {toMark} to mark
        {/if}
      </p>
      <span class="flex-1"></span>
      <BoardBar {view} {model} {data} />
      {#if data.at === null && data.mayHandOut}
        <a class="act act-small" href="/classes/{klass.id}/hand-out">Hand out something</a>
      {/if}
    </div>
    {#if data.at !== null}
      <div class="notice mb-2.5 flex flex-wrap items-center gap-3 py-1.5" role="status">
        <p class="flex-1">
          <strong>As it stood {when(data.at, clock.now, klass.time_zone)}.</strong> Units, groups and
          how points count are as they are today.
        </p>
        <button class="act act-small act-main" onclick={() => view.choose({ at: null })}
          >Back to now</button
        >
      </div>
    {/if}
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
    {#each refused as sentence (sentence)}
      <p class="trouble mb-2.5" role="alert">{sentence}</p>
    {/each}
    {#if view.now.lens === 'gaps'}
      {#if elsewhere.trouble}<p class="trouble mb-2.5" role="alert">{elsewhere.trouble}</p>{/if}
      {#if gaps.length === 0}
        <p class="notice max-w-2xl">Every copy that should be there is, with its work.</p>
      {:else}
        <GapList
          gaps={model.gapsInSight}
          counts={data.counts}
          only={view.now.of}
          timeZone={klass.time_zone}
          mayMend={data.mayMend}
          open={mending}
          {nameOf}
          {titleOf}
          {cellsOf}
          look={(of) => view.choose({ of })}
          choose={openMend}
          close={closeSeveral}
        />
      {/if}
    {:else if board.assignments.length === 0}
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
    {:else if model.columns.length === 0}
      <p class="notice max-w-2xl">
        Nothing of {klass.name} is like that now.
        <button class="ml-1 underline" onclick={() => view.clear()}>Show everything</button>
      </p>
    {:else}
      {#if hours.trouble && view.now.lens === 'hours'}<p class="trouble mb-2.5" role="alert">
          {hours.trouble}
        </p>{/if}
      <BoardTable
        {data}
        {view}
        {model}
        {hours}
        now={time.now}
        open={mending === null ? chosen : { gap: mending }}
        peek={openPeek}
        mend={openMend}
      />
    {/if}
  </main>
  {#if closing}
    <MendSeveral
      chosen={closing}
      {klass}
      {nameOf}
      {titleOf}
      mended={takeOutcome}
      close={() => (closing = null)}
    />
  {:else if openGap}
    {#key mending}
      <MendOne
        gap={openGap}
        who={nameOf(openGap.students)}
        title={titleOf(openGap.assignment)}
        {klass}
        mayMend={data.mayMend}
        mended={takeOutcome}
        close={() => (mending = null)}
      />
    {/key}
  {:else if chosenCopy}
    {@const student = board.students.find(({ id }) => id === chosen?.student)}
    {@const assignment = board.assignments.find(({ id }) => id === chosenCopy.assignment)}
    {#if student && assignment}
      <Peek
        mayMark={data.mayMark && data.at === null}
        remind={data.at === null &&
        data.mayHandOut &&
        model.reminderOf(student, chosenCopy).length > 0
          ? () => (reminding = model.reminderOf(student, chosenCopy))
          : null}
        copy={chosenCopy}
        {student}
        {assignment}
        {klass}
        now={clock.now}
        at={data.at}
        close={() => (chosen = null)}
      />
    {/if}
  {/if}
</div>
{#if reminding}<Remind cells={reminding} close={() => (reminding = null)} />{/if}
