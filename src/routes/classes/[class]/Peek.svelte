<script lang="ts">
  import X from '@lucide/svelte/icons/x';
  import type { CopyFlags, CopyState } from '$core/copy/state';
  import { writePoints } from '$core/marking/points';
  import Rosette from '$ui/copy/Rosette.svelte';
  import { send } from '$ui/send';
  import SaySomething from './SaySomething.svelte';
  import { when } from '$core/calendar/say-time';
  import type { CopyRow } from '$core/copy/copy-row';
  import type { PeekInside } from '$server/copy/look-inside';

  interface Props {
    copy: CopyRow & { state: CopyState; flags: CopyFlags };
    student: { given: string; family: string };
    assignment: { title: string; due: number | null };
    klass: { id: string; time_zone: string };
    now: number;
    /** When it stood so, as the board is looked back to; null for now. */
    at: number | null;
    /** Whether a look is recorded: not in an archived class. */
    mayMark: boolean;
    /** Asks their student for it; null where there is nothing to ask for. */
    remind: (() => void) | null;
    close: () => void;
  }
  let { copy, student, assignment, klass, now, at, mayMark, remind, close }: Props = $props();

  let inside = $state<PeekInside | null>(null);
  let trouble = $state('');
  const id = $derived(copy.id);
  const handedIn = $derived(copy.facts.handedIn);
  const version = $derived(copy.version);
  /** A peek that stays open is no look at what is handed in meanwhile: the teacher may be elsewhere in the room. */
  let opened: { page: string; handedIn: number | null } | null = null;
  $effect(() => {
    void version;
    // What is inside is read as it is now.
    if (at !== null) return;
    const page = id;
    const now = { page, handedIn };
    if (opened?.page !== page) opened = now;
    const since = opened.handedIn;
    let outdated = false;
    fetch(`/pages/${page}/peek`)
      .then(async (answer) => {
        const body = await answer.json();
        if (outdated) return;
        if (answer.ok) {
          inside = body;
          if (mayMark && body.handedIn === since)
            void send(`/pages/${page}/marking`, { move: 'look', handedIn: since }).catch(
              () => undefined,
            );
        }
        trouble = answer.ok ? '' : body.message;
      })
      .catch(() => (trouble = 'The server does not answer; this will fill itself when it does.'));
    return () => (outdated = true);
  });
  /** Nothing is asked of what is only read. */
  const isRead = $derived(copy.delivery === 'to read');
  const sittings = $derived(inside?.page === copy.id ? inside.sittings : []);
  const last = $derived(sittings.at(-1));
  const most = $derived(Math.max(1, ...sittings.map((sitting) => sitting.steps)));
</script>

<aside
  class="w-[25rem] shrink-0 overflow-auto border-l border-rule bg-sheet p-5 max-lg:fixed max-lg:inset-y-0 max-lg:right-0 max-lg:z-30 max-lg:max-w-full"
  aria-label="Peek: {student.given} {student.family}, {assignment.title}"
>
  <div class="flex items-center gap-3">
    <Rosette
      mask={copy.mask}
      state={copy.state}
      flags={copy.flags}
      points={copy.points}
      size={44}
    />
    <div class="min-w-0 flex-1">
      <h2 class="text-lg leading-tight font-bold">{student.given} {student.family}</h2>
      <p class="text-sm text-ink2">
        {assignment.title} · {copy.flags.now
          ? 'writing now'
          : copy.state}{#if copy.flags.now && last}, {Math.max(
            1,
            Math.round((last.to - last.from) / 60_000),
          )} min this sitting{/if}
      </p>
    </div>
    <button class="act act-plain" onclick={close} aria-label="Close the peek"
      ><X size={20} aria-hidden="true" /></button
    >
  </div>
  {#if trouble}<p class="trouble mt-4" role="alert">{trouble}</p>{/if}
  {#if at !== null}
    <p class="mt-4">This is how it stood {when(at, now, klass.time_zone)}.</p>
    {#if !isRead}<p class="mt-3">
        <a class="act act-main" href="/classes/{klass.id}/marking/{copy.id}#how-written"
          >How it was written</a
        >
      </p>{/if}
  {:else if inside?.page === copy.id}
    {#if isRead}
      <p class="mt-4">
        Opened by {copy.openers.length} of the {copy.members.length} who have it to read.
      </p>
    {:else if inside.latest}
      <div class="mt-4 border border-rule bg-(--page) px-4 py-3 font-page">
        <p class="font-bold">{inside.latest.number} · {inside.latest.label}</p>
        <p class="line-clamp-6 whitespace-pre-line">{inside.latest.answer}</p>
      </div>
    {/if}
    <ul class="mt-3">
      {#each isRead ? [] : inside.parts as part (part.id)}
        <li class="flex items-center gap-3 border-b border-rule py-1.5">
          <Rosette
            mask={part.done ? '1' : '0'}
            state="working"
            size={16}
            label={part.done ? 'done' : 'still open'}
          />
          <span class="min-w-0 flex-1 truncate">{part.number} {part.label}</span>
          <span class="max-w-40 truncate text-sm text-ink2">{part.detail || '–'}</span>
        </li>
      {/each}
    </ul>
    {#if sittings.length > 0}
      <h3 class="label mt-4">Sittings</h3>
      <ol class="flex items-end gap-2 overflow-x-auto border-b-2 border-rule pb-0">
        {#each sittings.slice(-6) as sitting (sitting.from)}
          <li class="flex flex-col items-center text-xs text-ink2" title="{sitting.steps} changes">
            <span class="w-10 bg-ice" style:height="{8 + (sitting.steps / most) * 28}px"></span>
            {when(sitting.from, now, klass.time_zone)}
          </li>
        {/each}
      </ol>
    {/if}
    <div class="mt-5 flex flex-wrap gap-2">
      {#if isRead}
        <a class="act" href="/classes/{klass.id}/assignments/{copy.assignment}">Open assignment</a>
      {:else}
        <a class="act act-main" href="/classes/{klass.id}/marking/{copy.id}">Open copy</a>
        {#if mayMark}{#key copy.id}<SaySomething page={copy.id} />{/key}{/if}
        {#if remind}<button class="act" onclick={remind}>Remind …</button>{/if}
        <a class="act" href="/classes/{klass.id}/marking/{copy.id}#how-written">Versions</a>
      {/if}
    </div>
    <ul class="mt-5 border-t border-rule pt-3 text-sm text-ink2">
      {#each isRead ? [] : inside.record as entry, index (index)}
        <li>
          {[entry.what, entry.points && writePoints(entry.points)].filter(Boolean).join(' ')}, {when(
            entry.at,
            now,
            klass.time_zone,
          )}{entry.note ? `: “${entry.note}”` : ''}
        </li>
      {:else}
        {#if !isRead}<li>Not opened yet.</li>{/if}
      {/each}
      {#if assignment.due !== null}<li>
          {assignment.due < now ? 'was due' : 'due'}
          {when(assignment.due, now, klass.time_zone)}
        </li>{/if}
    </ul>
  {:else if !trouble}
    <p class="mt-6 text-ink2" role="status">Looking inside …</p>
  {/if}
</aside>
