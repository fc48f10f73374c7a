<script lang="ts">
  import type { CopyRow } from '$core/copy/copy-row';
  import { flagsOf, sayState, stateOf } from '$core/copy/state';
  import { sayClock, sayDay, when } from '$core/calendar/say-time';
  import { dayOfLessons, sayLesson } from '$core/desk/lessons-today';
  import type { DeskLine } from '$core/desk/desk-view';
  import { listed } from '$core/lists/listed';
  import Rosette from '$ui/copy/Rosette.svelte';
  import { moreOf, type Telling } from './line-words';
  import type { PageData } from './$types';

  interface Props {
    desk: PageData['desk'];
    copies: readonly CopyRow[];
    lines: readonly DeskLine[];
    telling: Telling;
  }
  /** Today's lessons: the running one with its rosettes, what is free between them, and when the next are. */
  let { desk, copies, lines, telling }: Props = $props();

  const { now, timeZone } = $derived(telling);
  const day = $derived(dayOfLessons(desk.lessons, now));
  const classOf = (id: string) => desk.classes.find((one) => one.id === id);
  const copiesOf = (lesson: (typeof desk.lessons)[number]) =>
    copies.filter(
      (copy) => copy.class === lesson.class && copy.assignment === lesson.assignment?.id,
    );
  /** What goes out by itself until the lesson ends. */
  const goingOut = (lesson: (typeof desk.lessons)[number]) =>
    desk.drafts.filter(
      (draft) =>
        draft.class.id === lesson.class &&
        draft.goesOut !== null &&
        draft.goesOut > now &&
        draft.goesOut <= lesson.ends,
    );
  const toMark = $derived(lines.find(({ kind }) => kind === 'answer'));
  const soonDue = $derived(
    lines.find((line) => line.kind === 'due' && (line.places[0]?.since ?? 0) > now),
  );
  const nameOf = (copy: CopyRow) => listed(copy.members.map((id) => desk.names[id] ?? ''));
</script>

<h2 id="today" class="text-lg font-bold">{sayDay(now, timeZone)}</h2>
<ul class="mt-3">
  {#each day as entry (`${entry.kind} ${entry.starts} ${entry.kind === 'lesson' ? entry.lesson.class : ''}`)}
    {#if entry.kind === 'lesson'}
      {@const { lesson } = entry}
      {@const klass = classOf(lesson.class)}
      {@const theirs = copiesOf(lesson)}
      <li
        class={[
          '-mx-4 flex gap-4 border-t border-rule px-4 py-3',
          'border-l-3',
          entry.now ? 'border-l-lamp bg-lamp-pale' : 'border-l-transparent',
        ]}
      >
        <span class="w-12 shrink-0 text-sm text-ink2"
          >{sayClock(lesson.starts, timeZone)}{#if entry.now}<span class="block"
              >{Math.max(1, Math.ceil((lesson.ends - now) / 60_000))} min left</span
            >{/if}</span
        >
        <div class="min-w-0 flex-1">
          <a href="/classes/{lesson.class}" class="font-bold text-ink no-underline"
            >{klass?.name} {klass?.title}</a
          >
          {#each goingOut(lesson) as draft (draft.id)}<p class="text-sm text-ink2">
              {draft.title} goes out at {sayClock(draft.goesOut ?? 0, timeZone)}
            </p>{/each}
          {#if lesson.assignment}<p class="text-sm text-ink2">
              {sayLesson({ title: lesson.assignment.title, running: entry.now }, theirs, now)}
            </p>{/if}
          {#if entry.now && theirs.length > 0}
            <ul class="mt-2 flex flex-wrap gap-1">
              {#each theirs as copy (copy.id)}
                {@const state = stateOf(copy.facts)}
                {@const flags = flagsOf(copy.facts, now)}
                {@const says = `${nameOf(copy)}, ${flags.now ? 'writing now' : sayState(state, flags, copy.mask)}`}
                <li>
                  <a
                    class="block"
                    href="/classes/{lesson.class}/marking/{copy.id}"
                    title={says}
                    aria-label={says}
                    ><Rosette mask={copy.mask} {state} {flags} points={copy.points} size={26} /></a
                  >
                </li>
              {/each}
            </ul>
          {/if}
        </div>
      </li>
    {:else if toMark && telling.pace !== null && (entry.ends ?? Infinity) > now}
      <li class="-mx-4 flex gap-4 border-t border-rule px-4 py-3 pl-[19px]">
        <span class="w-12 shrink-0 text-sm text-ink2">{sayClock(entry.starts, timeZone)}</span>
        <div class="min-w-0 flex-1">
          <p class="font-bold">Free{entry.ends === null ? ' from here on' : ''}</p>
          <p class="text-sm text-ink2">{toMark.title}, {moreOf(toMark, telling)}</p>
        </div>
      </li>
    {/if}
  {:else}
    <li class="border-t border-rule py-3 text-ink2">No lesson today.</li>
  {/each}
</ul>
{#if desk.nextDay || soonDue}
  <p class="border-t border-rule pt-3 text-sm text-ink2">
    {#if desk.nextDay}{sayDay(desk.nextDay.at, timeZone)}: {listed(
        desk.nextDay.classes.map((id) => classOf(id)?.name ?? ''),
      )}.{/if}
    {#if soonDue}{soonDue.title} is due {when(soonDue.places[0]?.since ?? 0, now, timeZone)}.{/if}
  </p>
{/if}
