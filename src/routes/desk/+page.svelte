<script lang="ts">
  import type { CopyRow } from '$core/copy/copy-row';
  import { deskLines } from '$core/desk/desk-lines';
  import type { DeskLine } from '$core/desk/desk-view';
  import { DESK_GROUPS, groupOf, lineKey } from '$core/desk/urgency';
  import { grouped } from '$core/lists/grouped';
  import { Clock } from '$ui/clock.svelte';
  import { giveCopies } from '$ui/give-copies';
  import { Mended } from '$ui/mended.svelte';
  import { aboutMargins, followCopies, readAgain, refreshOnNews } from '$ui/refresh';
  import type { CellToRemind } from '$ui/remind/cell-to-remind';
  import Remind from '$ui/remind/Remind.svelte';
  import { send } from '$ui/send';
  import NextSteps from '$ui/shell/NextSteps.svelte';
  import DeskRow from './DeskRow.svelte';
  import { sayUntil, titleOf } from './line-words';
  import Today from './Today.svelte';

  let { data } = $props();
  const desk = $derived(data.desk);
  const clock = new Clock();
  $effect(() => clock.run(15_000));
  let copies: readonly CopyRow[] = $derived(desk.copies);
  followCopies('uncia:desk', {
    classes: () => desk.classes.map(({ id }) => id),
    me: () => data.person?.id ?? '',
    copies: () => copies,
    patch: (next) => (copies = next),
  });
  refreshOnNews('uncia:desk', aboutMargins);
  /** Comes behind the rest; what was known before stays until then. */
  let behind = $state.raw<Awaited<typeof data.behind>>({ lacking: [], stuck: [], names: {} });
  $effect(() => {
    void data.behind.then((found) => (behind = found));
  });
  let office = $state.raw<Awaited<typeof data.office>>([]);
  $effect(() => {
    void data.office.then((found) => (office = found));
  });
  const names = $derived({ ...desk.names, ...behind.names });
  const all = $derived(deskLines({ ...desk, ...behind, office, copies, names }, clock.now));
  const telling = $derived({ now: clock.now, timeZone: desk.timeZone, pace: desk.pace });
  const offUntil = (line: DeskLine) => desk.putOff[lineKey(line)] ?? 0;
  const lines = $derived(all.filter((line) => offUntil(line) <= clock.now));
  const putOffLines = $derived(all.filter((line) => offUntil(line) > clock.now));

  let trouble = $state('');
  async function putOff(line: DeskLine, until: number | null): Promise<string> {
    try {
      await send('/desk/put-off', { line: lineKey(line), until });
      await readAgain('uncia:desk');
      return '';
    } catch (error) {
      return error instanceof Error ? error.message : 'It is not put off. Please try again.';
    }
  }
  async function bringBack(line: DeskLine) {
    trouble = await putOff(line, null);
  }

  /** Whom a reminder is being written to; null for none. */
  let reminding: readonly CellToRemind[] | null = $state.raw(null);
  const mended = new Mended(() => readAgain('uncia:desk'));
  async function give(line: DeskLine & { kind: 'lacking' }) {
    const byAssignment = grouped(line.lacking, (one) => `${one.class} ${one.assignment}`);
    const { undo, trouble: fault } = await giveCopies(
      [...byAssignment.values()].flatMap((some) => {
        const [first] = some;
        if (!first) return [];
        const { assignment, class: klass } = first;
        return [{ class: klass, assignment, students: some.map(({ student }) => student) }];
      }),
    );
    trouble = fault;
    if (undo) mended.say('What was missing is there now.', undo);
  }
  /** What settles a line from here; null where it has to be looked at. */
  function settles(line: DeskLine): { says: string; run: () => void } | null {
    if (line.kind === 'lacking')
      return {
        says: line.lacking.length === 1 ? 'Give the copy' : `Give all ${line.lacking.length}`,
        run: () => void give(line),
      };
    if (line.kind !== 'nudge') return null;
    const cells = line.idle.map((cell) => ({
      ...cell,
      name: names[cell.student] ?? '',
      title: line.title,
    }));
    return { says: 'Remind …', run: () => (reminding = cells) };
  }
  const first = $derived(data.first);
  const inClass = $derived(first.class ? `/classes/${first.class.id}` : '/classes/new');
  const steps = $derived(
    first.handedOut || desk.archived.length > 0
      ? []
      : [
          {
            title: 'Create a course: what you teach from, with its pages',
            done: first.course !== null,
            to: '/courses',
            button: 'Create a course',
          },
          {
            title: 'Create a class of it, for this term',
            done: first.class !== null,
            to: '/classes/new',
            button: 'Create a class',
          },
          {
            title: 'Bring in its students',
            done: first.students,
            to: `${inClass}/roster`,
            button: 'Open the roster',
          },
          {
            title: 'Write a page for them, and hand it out: each student gets a copy',
            done: first.handedOut,
            to: `${inClass}/hand-out`,
            button: 'Hand out',
          },
          {
            title: 'Open the class, so that its students see it',
            done: first.opened,
            to: `${inClass}/plan`,
            button: 'Open the class',
          },
        ],
  );
  const TITLES = { answer: 'Answer', mend: 'Mend', nudge: 'Nudge', coming: 'Coming' };
  const groups = $derived(
    DESK_GROUPS.map((kind) => ({
      kind,
      title: TITLES[kind],
      lines: lines.filter((line) => groupOf(line) === kind),
    })).filter((group) => group.lines.length > 0),
  );
</script>

<div class="flex min-h-0 flex-1 max-md:flex-col max-md:overflow-auto">
  <aside
    class="w-80 shrink-0 overflow-auto border-r border-rule bg-sheet px-4 py-4 max-md:w-full max-md:border-r-0"
    aria-labelledby="today"
  >
    <Today {desk} {copies} {lines} {telling} />
    <h3 class="label mt-5">Your classes</h3>
    <ul>
      {#each desk.classes as klass (klass.id)}
        <li>
          <a
            class="block rounded-lg py-1.5 font-semibold text-ink no-underline hover:text-spruce"
            href="/classes/{klass.id}">{klass.name} {klass.title}</a
          >
        </li>
      {/each}
    </ul>
    {#if desk.mayHandOut}
      <p class="mt-2"><a href="/headcount">Headcount of the term</a></p>
    {/if}
    {#if desk.archived.length > 0}
      <details class="mt-3">
        <summary class="label cursor-pointer">Archived · {desk.archived.length}</summary>
        <ul>
          {#each desk.archived as klass (klass.id)}
            <li>
              <a
                class="block rounded-lg py-1.5 text-ink no-underline hover:text-spruce"
                href="/classes/{klass.id}/archive"
                >{klass.name}
                {klass.title}<span class="block text-sm text-ink2">{klass.term}</span></a
              >
            </li>
          {/each}
        </ul>
      </details>
    {/if}
    <p class="mt-4 flex flex-wrap gap-2">
      <a class="act act-small" href="/courses">Courses</a>
      <a class="act act-small act-plain" href="/classes/new">New class</a>
      <a class="act act-small act-plain" href="/classes/open">Open an archive</a>
    </p>
  </aside>
  <main class="min-w-0 flex-1 overflow-auto px-6 py-4">
    <div class="flex items-center gap-4">
      <div class="flex flex-1 flex-wrap items-baseline gap-x-3">
        <h1 class="text-xl font-bold">What needs your hand</h1>
        <span class="text-sm text-ink2">all classes, most urgent first</span>
      </div>
      {#if desk.mayHandOut && steps.length === 0}<a class="act" href="/courses"
          >Hand out something</a
        >{/if}
    </div>
    <NextSteps title="From here to the first page in your students’ hands" {steps} />
    {#if trouble}<p class="trouble mt-3" role="alert">{trouble}</p>{/if}
    {#if mended.last}
      <p class="notice mt-3 flex items-center gap-3" role="status">
        <span class="flex-1">{mended.last.says}</span>
        <button class="act act-small" onclick={mended.undo}>Undo</button>
      </p>
    {/if}
    {#each groups as group (group.kind)}
      <h2 class="mt-5 mb-1.5 font-bold">{group.title}</h2>
      <ul class="border border-rule bg-sheet">
        {#each group.lines as line, index (lineKey(line))}
          <DeskRow
            {line}
            first={index === 0}
            {telling}
            nextLesson={desk.nextLesson}
            settle={settles(line)}
            putOff={(until) => putOff(line, until)}
          />
        {/each}
      </ul>
    {:else}
      <p class={['notice mt-6', steps.length > 0 && 'hidden']}>
        Nothing waits for you.
        {#if desk.mayHandOut}<a href="/courses">Hand out something</a> to your classes, or open a class
          to see how it is going.{:else}Open a class to see how it is going.{/if}
      </p>
    {/each}
    {#if putOffLines.length > 0}
      <details class="mt-6">
        <summary class="label cursor-pointer">Put off · {putOffLines.length}</summary>
        <ul class="mt-1 border border-rule bg-sheet">
          {#each putOffLines as line (lineKey(line))}
            <li class="flex items-center gap-4 border-b border-rule px-4 py-1.5 last:border-b-0">
              <span class="min-w-0 flex-1 wrap-anywhere"
                >{titleOf(line)}
                <span class="text-sm text-ink2">until {sayUntil(offUntil(line), telling)}</span
                ></span
              >
              <button
                class="act act-small"
                aria-label="Bring back: {titleOf(line)}"
                onclick={() => bringBack(line)}>Bring back</button
              >
            </li>
          {/each}
        </ul>
      </details>
    {/if}
  </main>
</div>
{#if reminding}<Remind cells={reminding} close={() => (reminding = null)} />{/if}
