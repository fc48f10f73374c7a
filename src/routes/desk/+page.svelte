<script lang="ts">
  import type { CopyRow } from '$core/copy/copy-row';
  import { deskLines, type DeskLine, type DeskPlace } from '$core/desk/desk-lines';
  import { Clock } from '$ui/clock.svelte';
  import { flagsOf, stateOf } from '$core/copy/state';
  import Rosette from '$ui/copy/Rosette.svelte';
  import NextSteps from '$ui/shell/NextSteps.svelte';
  import { followCopies } from '$ui/refresh';
  import { sayDay, when } from '$core/calendar/say-time';

  let { data } = $props();
  const desk = $derived(data.desk);
  const clock = new Clock();
  $effect(() => clock.run(60_000));
  let copies: readonly CopyRow[] = $derived(desk.copies);
  $effect(() =>
    followCopies('uncia:desk', {
      classes: desk.classes.map(({ id }) => id),
      me: data.person?.id ?? '',
      copies: () => copies,
      patch: (next) => (copies = next),
    }),
  );
  /** Comes behind the rest; what was known before stays until then. */
  let behind = $state.raw<Awaited<typeof data.lacking>>({ lacking: [], names: {} });
  $effect(() => {
    void data.lacking.then((found) => (behind = found));
  });
  const lines = $derived(
    deskLines(
      {
        ...desk,
        copies,
        lacking: behind.lacking,
        names: { ...desk.names, ...behind.names },
      },
      clock.now,
    ),
  );
  const copiesOf = (lesson: (typeof desk.lessons)[number]) =>
    copies.filter(
      (copy) => copy.class === lesson.class && copy.assignment === lesson.assignment?.id,
    );

  const GROUP_OF = {
    answer: 'answer',
    lacking: 'mend',
    emptied: 'mend',
    nudge: 'nudge',
    due: 'coming',
    draft: 'coming',
    drafts: 'coming',
  } as const;
  const BUTTONS = {
    answer: 'Mark',
    lacking: 'Mend',
    emptied: 'Mend',
    nudge: 'See who',
    due: 'Open',
    draft: 'Finish',
    drafts: 'See them',
  };
  const inTotal = ({ places }: DeskLine) => places.reduce((sum, { count }) => sum + count, 0);

  function titleOf(line: DeskLine): string {
    const n = inTotal(line);
    switch (line.kind) {
      case 'answer':
        return line.title;
      case 'lacking':
        return `${line.title} ${n === 1 ? 'lacks' : 'lack'} ${line.assignments === 1 ? 'a copy' : `copies of ${line.assignments} assignments`}`;
      case 'emptied':
        return line.who
          ? `${line.title} of ${line.who} was emptied`
          : `${n} copies of ${line.title} were emptied`;
      case 'nudge':
        return `${n} ${n === 1 ? 'has' : 'have'} not begun ${line.title}`;
      case 'due':
        return `${line.title} is due`;
      case 'draft':
        return `${line.title} ${line.places[0]?.since === null ? 'is a draft' : 'goes out'}`;
      case 'drafts':
        return `${n} assignments are drafts`;
    }
  }
  function leadsTo(line: DeskLine, { class: { id }, copy }: DeskPlace): string {
    switch (line.kind) {
      case 'answer':
        return `/classes/${id}/marking/${copy?.id}`;
      case 'lacking':
      case 'emptied':
        return `/classes/${id}?lens=gaps`;
      case 'nudge':
        return `/classes/${id}?order=begun`;
      case 'due':
        return `/classes/${id}`;
      case 'draft':
        return `/classes/${id}/hand-out?draft=${line.id}`;
      case 'drafts':
        return `/classes/${id}/hand-out`;
    }
  }
  /** What stands behind the name of a class. */
  function sayPlace(line: DeskLine, { count, since }: DeskPlace): string {
    const several =
      line.places.length > 1 && ['answer', 'emptied', 'nudge', 'drafts'].includes(line.kind);
    const time = since === null ? '' : when(since, clock.now, desk.timeZone);
    const says = {
      answer: `waiting since ${time}`,
      lacking: `since ${time}`,
      emptied: `since ${time}`,
      nudge: `due ${time}`,
      due: time,
      draft: time,
      drafts: time,
    };
    return [several ? String(count) : '', time && says[line.kind]].filter(Boolean).join(', ');
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
  const GROUPS = [
    ['answer', 'Answer'],
    ['mend', 'Mend'],
    ['nudge', 'Nudge'],
    ['coming', 'Coming'],
  ] as const;
  const groups = $derived(
    GROUPS.map(([kind, title]) => ({
      title,
      kind,
      lines: lines.filter((line) => GROUP_OF[line.kind] === kind),
    })).filter((group) => group.lines.length > 0),
  );
</script>

<div class="flex min-h-0 flex-1 max-md:flex-col max-md:overflow-auto">
  <aside
    class="w-80 shrink-0 border-r border-rule bg-sheet px-4 py-4 max-md:w-full max-md:border-r-0"
    aria-labelledby="today"
  >
    <h2 id="today" class="text-lg font-bold">{sayDay(clock.now, desk.timeZone)}</h2>
    <ul class="mt-3">
      {#each desk.lessons as lesson, index (index)}
        <li
          class={[
            '-mx-4 flex gap-4 border-t border-rule px-4 py-3',
            'border-l-3',
            lesson.now ? 'border-l-lamp bg-lamp-pale' : 'border-l-transparent',
          ]}
        >
          <span class="w-12 shrink-0 text-sm text-ink2">{lesson.starts}</span>
          <div class="min-w-0 flex-1">
            <a href="/classes/{lesson.class}" class="font-bold text-ink no-underline"
              >{lesson.name} {lesson.title}</a
            >
            {#if lesson.assignment}<p class="text-sm text-ink2">{lesson.assignment.title}</p>{/if}
            <div class="mt-2 flex flex-wrap gap-1">
              {#each copiesOf(lesson) as copy (copy.id)}
                <Rosette
                  mask={copy.mask}
                  state={stateOf(copy.facts)}
                  flags={flagsOf(copy.facts, clock.now)}
                  points={copy.points}
                  size={26}
                />
              {/each}
            </div>
          </div>
        </li>
      {:else}
        <li class="border-t border-rule py-3 text-ink2">No lesson today.</li>
      {/each}
    </ul>
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
        <span class="text-sm text-ink2">all classes, oldest first</span>
      </div>
      {#if desk.mayHandOut && steps.length === 0}<a class="act" href="/courses"
          >Hand out something</a
        >{/if}
    </div>
    <NextSteps title="From here to the first page in your students’ hands" {steps} />
    {#each groups as group (group.kind)}
      <h2 class="mt-5 mb-1.5 font-bold">{group.title}</h2>
      <ul class="border border-rule bg-sheet">
        {#each group.lines as line (line.id)}
          {@const [first] = line.places}
          <li class="flex items-center gap-4 border-b border-rule px-4 py-2.5 last:border-b-0">
            <span class="grid w-9 shrink-0 place-items-center text-xl font-bold">
              {#if line.kind === 'answer'}{inTotal(line)}{:else if line.kind === 'nudge'}<Rosette
                  mask={first?.copy?.mask ?? ''}
                  state="unopened"
                />{:else if GROUP_OF[line.kind] === 'mend'}<Rosette
                  mask=""
                  state="opened"
                  gap
                />{:else}<span aria-hidden="true">↗</span>{/if}
            </span>
            <p class="min-w-0 flex-1">
              <strong>{titleOf(line)}</strong>
              {#if line.kind === 'nudge' && line.overdue}<span class="text-sm text-rust"
                  >overdue</span
                >{/if}
              {#if line.kind === 'draft' && line.fault}<span class="text-sm text-rust"
                  >{line.fault}</span
                >{/if}
              <span class="block text-sm text-ink2">
                {#each line.places as place, index (place.class.id)}
                  {#if index > 0}<span aria-hidden="true">&nbsp;·&nbsp;</span>{/if}
                  {#if line.places.length > 1}<a
                      class="font-semibold text-ink2 hover:text-spruce"
                      href={leadsTo(line, place)}>{place.class.name}</a
                    >{:else}{place.class.name} {place.class.title}{/if}
                  {sayPlace(line, place)}
                {/each}
              </span>
            </p>
            {#if first}<a
                href={leadsTo(line, first)}
                class={['act', line.kind === 'answer' && 'act-main']}
                aria-label="{BUTTONS[line.kind]}: {titleOf(line)}, {first.class.name} {first.class
                  .title}">{BUTTONS[line.kind]}</a
              >{/if}
          </li>
        {/each}
      </ul>
    {:else}
      <p class={['notice mt-6', steps.length > 0 && 'hidden']}>
        Nothing waits for you.
        {#if desk.mayHandOut}<a href="/courses">Hand out something</a> to your classes, or open a class
          to see how it is going.{:else}Open a class to see how it is going.{/if}
      </p>
    {/each}
  </main>
</div>
