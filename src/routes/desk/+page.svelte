<script lang="ts">
  import { flagsOf, stateOf } from '$core/copy/state';
  import Rosette from '$ui/marks/Rosette.svelte';
  import NextSteps from '$ui/shell/NextSteps.svelte';
  import { refreshOnNews } from '$ui/refresh';
  import { longDate, when } from '$ui/when';

  let { data } = $props();
  const desk = $derived(data.desk);
  $effect(() => refreshOnNews('uncia:desk'));

  function lineWords({ kind, detail, since }: (typeof desk.lines)[number]): string {
    if (since === null) return detail;
    const due = kind === 'nudge' ? '· due ' : kind === 'coming' ? '· ' : '';
    return `${detail} ${due}${when(since, data.now, desk.timeZone)}`;
  }
  const first = $derived(data.first);
  const inClass = $derived(first.class ? `/classes/${first.class.id}` : '/classes/new');
  const steps = $derived(
    first.handedOut
      ? []
      : [
          {
            title: 'Begin a course: what you teach from, with its pages',
            done: first.course !== null,
            to: '/courses',
            button: 'Begin a course',
          },
          {
            title: 'Make a class of it, for this term',
            done: first.class !== null,
            to: '/classes/new',
            button: 'Make a class',
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
    ['nudge', 'Nudge'],
    ['coming', 'Coming'],
  ] as const;
  const groups = $derived(
    GROUPS.map(([kind, title]) => ({
      title,
      kind,
      lines: desk.lines.filter((line) => line.kind === kind),
    })).filter((group) => group.lines.length > 0),
  );
</script>

<div class="flex min-h-0 flex-1 max-md:flex-col max-md:overflow-auto">
  <aside
    class="w-80 shrink-0 border-r border-rule bg-sheet px-4 py-4 max-md:w-full max-md:border-r-0"
    aria-labelledby="today"
  >
    <h2 id="today" class="text-lg font-bold">{longDate(data.now, desk.timeZone)}</h2>
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
          <div>
            <a href="/classes/{lesson.class}" class="font-bold text-ink no-underline"
              >{lesson.name} {lesson.title}</a
            >
            {#if lesson.assignment}<p class="text-sm text-ink2">{lesson.assignment}</p>{/if}
            <div class="mt-2 flex flex-wrap gap-1">
              {#each lesson.copies as copy (copy.id)}
                <Rosette
                  mask={copy.mask}
                  state={stateOf(copy.facts)}
                  flags={flagsOf(copy.facts, data.now)}
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
    <p class="mt-4 flex gap-2">
      <a class="act act-small" href="/courses">Courses</a>
      <a class="act act-small act-plain" href="/classes/new">A new class</a>
    </p>
  </aside>
  <main class="min-w-0 flex-1 overflow-auto px-6 py-4">
    <div class="flex items-center gap-4">
      <h1 class="text-xl font-bold">What needs your hand</h1>
      <span class="flex-1 text-sm text-ink2">all classes, oldest first</span>
      {#if desk.mayHandOut && steps.length === 0}<a class="act" href="/courses"
          >Hand out something</a
        >{/if}
    </div>
    <NextSteps title="From here to the first page in your students’ hands" {steps} />
    {#each groups as group (group.kind)}
      <h2 class="mt-5 mb-1.5 font-bold">{group.title}</h2>
      <ul class="border border-rule bg-sheet">
        {#each group.lines as line (line.id)}
          <li class="flex items-center gap-4 border-b border-rule px-4 py-2.5 last:border-b-0">
            <span class="grid w-9 shrink-0 place-items-center text-xl font-bold">
              {#if line.kind === 'answer'}{line.count}{:else if line.kind === 'nudge'}<Rosette
                  mask={line.mask}
                  state="unopened"
                />{:else}<span aria-hidden="true">↗</span>{/if}
            </span>
            <p class="min-w-0 flex-1">
              <strong>{line.title}</strong>
              <span class="text-sm text-ink2">{lineWords(line)}</span>
            </p>
            <a
              href={line.to}
              class={['act', line.kind === 'answer' && 'act-main']}
              aria-label="{line.button}: {line.title}, {line.detail}">{line.button}</a
            >
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
