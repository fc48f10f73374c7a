<script lang="ts">
  import CommentText from '$ui/comments/CommentText.svelte';
  import X from '@lucide/svelte/icons/x';
  import type { CopyFlags, CopyState } from '$core/copy/state';
  import { counted } from '$core/lists/counted';
  import { writePoints } from '$core/marking/points';
  import Rosette from '$ui/copy/Rosette.svelte';
  import { oneAtATime } from '$ui/one-at-a-time';
  import { fetchJson } from '$ui/send';
  import { Looks } from './looks';
  import type PeekPage from './PeekPage.svelte';
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
  /** What draws it, which comes with the first. */
  let Drawn = $state.raw<typeof PeekPage | null>(null);
  let trouble = $state('');
  const id = $derived(copy.id);
  const handedIn = $derived(copy.facts.handedIn);
  const version = $derived(copy.version);
  /** A peek that stays open is no look at what is handed in meanwhile: the teacher may be elsewhere in the room. */
  let opened: { page: string; handedIn: number | null } | null = null;
  /** What was seen of it when the peek was opened, which its own look does not change: a version, or -1 for nothing. */
  let known: number | null = null;
  const looks = new Looks();
  $effect(() => {
    void id;
    return () => looks.leave();
  });
  const read = oneAtATime(async () => {
    const page = id;
    const since = opened?.handedIn ?? null;
    try {
      // With what draws it, so that nothing below moves once it is there.
      const [found, drawn] = await Promise.all([
        fetchJson<PeekInside>(`/pages/${page}/peek${known === null ? '' : `?since=${known}`}`),
        isRead ? null : import('./PeekPage.svelte'),
        copy.attached.length > 0 ? import('$ui/attached/AttachedList.svelte') : null,
      ]);
      if (page !== id) return;
      inside = found;
      Drawn = drawn?.default ?? null;
      known ??= found.newSince?.version ?? -1;
      trouble = '';
      if (mayMark && found.handedIn === since)
        looks.look({ page, handedIn: since, version: found.version });
    } catch (error) {
      if (page === id) trouble = error instanceof Error ? error.message : '';
    }
  });
  $effect(() => {
    void version;
    // What is inside is read as it is now.
    if (at !== null) return;
    if (opened?.page !== id) {
      opened = { page: id, handedIn };
      known = null;
    }
    void read();
  });
  /** Nothing is asked of what is only read. */
  const isRead = $derived(copy.delivery === 'to read');
  const sittings = $derived(inside?.page === copy.id ? inside.sittings : []);
  const places = $derived(inside?.newSince?.places.length ?? 0);
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
    {:else}
      {#if places > 0}<p class="mt-3 text-sm">
          <span class="rounded bg-lamp-pale px-1">New</span>
          in {counted(places, 'place')} since you looked {when(
            inside.newSince?.at ?? 0,
            now,
            klass.time_zone,
          )}
        </p>{/if}
      {#key copy.id}<Drawn
          {inside}
          label="{student.given} {student.family}’s copy"
          writing={copy.flags.now}
        />{/key}
    {/if}
    {#if copy.attached.length > 0}
      {#await import('$ui/attached/AttachedList.svelte') then { default: AttachedList }}
        <div class="mt-3">
          <AttachedList page={copy.id} attached={copy.attached} {now} timeZone={klass.time_zone} />
        </div>
      {/await}
    {/if}
    <div class="mt-3 flex flex-wrap gap-2">
      {#if isRead}
        <a class="act" href="/classes/{klass.id}/assignments/{copy.assignment}">Open assignment</a>
      {:else}
        <a class="act act-main" href="/classes/{klass.id}/marking/{copy.id}">Open copy</a>
        {#if mayMark}{#key copy.id}<SaySomething page={copy.id} />{/key}{/if}
        {#if remind}<button class="act" onclick={remind}>Remind …</button>{/if}
        <a class="act" href="/classes/{klass.id}/marking/{copy.id}#how-written">Versions</a>
      {/if}
    </div>
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
    {#if inside.threads.length > 0}
      <h3 class="label mt-4">In the margin</h3>
      <ul class="text-sm" aria-label="In the margin">
        {#each inside.threads as thread (thread.id)}
          {@const said = thread.comments.filter(({ kind }) => kind === 'said').at(-1)}
          <li class="border-l-3 border-ice py-1 pl-2.5">
            {#if thread.quote}<span class="line-clamp-1 text-ink2">on “{thread.quote}”</span>{/if}
            <span class="line-clamp-3 wrap-anywhere whitespace-pre-line"
              ><CommentText text={said?.text ?? ''} /></span
            >
            <span class="text-xs text-ink2"
              >{said?.own ? 'you' : said?.by}, {when(said?.at ?? 0, now, klass.time_zone)}</span
            >
          </li>
        {/each}
      </ul>
    {/if}
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
