<script lang="ts">
  import Sheet from '$ui/shell/Sheet.svelte';
  import type { EditorView } from 'prosemirror-view';
  import { onMount, untrack } from 'svelte';
  import {
    flagsOf,
    handInFault,
    isWithTeacher,
    mayWrite,
    stateOf,
    takeBackFault,
  } from '$core/copy/state';
  import { writePoints } from '$core/marking/points';
  import { partsDone } from '$core/page/parts';
  import { Clock } from '$ui/clock.svelte';
  import Margin from '$ui/comments/Margin.svelte';
  import { ThreadStore } from '$ui/comments/thread-store.svelte';
  import { Draft } from '$ui/draft.svelte';
  import Rosette from '$ui/copy/Rosette.svelte';
  import HowWritten from '$ui/history/HowWritten.svelte';
  import { followPage } from '$ui/page/follow-page';
  import { pagePlugins } from '$ui/page/page-plugins';
  import { PageSession } from '$ui/page/page-session.svelte';
  import PageToolbar from '$ui/page/PageToolbar.svelte';
  import PageView from '$ui/page/PageView.svelte';
  import SetAside from '$ui/page/SetAside.svelte';
  import SaveWords from '$ui/page/SaveWords.svelte';
  import { threadHighlights } from '$ui/page/thread-highlights';
  import { oneAtATime } from '$ui/one-at-a-time';
  import { fetchJson, send } from '$ui/send';
  import { away, when } from '$core/calendar/say-time';

  let { data } = $props();
  const clock = new Clock();
  let view: EditorView | null = $state(null);
  let trouble = $state('');
  const note = untrack(() => new Draft(`note ${data.page}`));
  let handing = $state(false);
  let moving = $state(false);
  const warn = (sentence: string) => (trouble = sentence);

  const session = untrack(
    () =>
      new PageSession({
        page: data.page,
        version: data.version,
        doc: data.doc,
        setAside: data.setAside,
        plugins: [
          ...pagePlugins({ kind: 'copy', guarded: data.assignment.guarded, warn }),
          threadHighlights((thread) => {
            store.choose(thread, view);
            document.getElementById(`thread-${thread}`)?.scrollIntoView({ block: 'nearest' });
          }),
        ],
      }),
  );
  const store = untrack(() => new ThreadStore(session, data.threads));

  /** Read by itself, not with the view: a view that is read again while the server is away would be lost. */
  let copy = $state.raw(untrack(() => data.copy));
  const look = oneAtATime(async () => {
    const answer = await fetch(`/pages/${data.page}/standing`).catch(() => null);
    if (answer?.ok) copy = await answer.json();
  });

  /** The feedback sheet comes with the copy when it is handed back. */
  let feedback = $state.raw(untrack(() => data.feedback));
  let back = untrack(() => data.copy.facts.handedBack);
  $effect(() => {
    if (copy.facts.handedBack === back) return;
    back = copy.facts.handedBack;
    void fetchJson<typeof feedback>(`/pages/${data.page}/feedback`)
      .then((given) => (feedback = given))
      .catch(() => undefined);
  });

  const stands = $derived(stateOf(copy.facts));
  const flags = $derived({ ...flagsOf(copy.facts, clock.now), unread: false, now: false });
  /** Of one that was handed out to read, or replaced by another, nothing is asked. */
  const mayWork = $derived(data.mayWork);
  const isTask = $derived(data.assignment.form === 'done or not');
  const lateRule = $derived(data.assignment.late);
  const isClosed = $derived(handInFault(copy.facts, lateRule, clock.now) === 'comes too late');
  const writable = $derived(mayWork && mayWrite(stands));
  const handWord = $derived(
    isTask
      ? 'I have done it'
      : stands === 'handed back' || stands === 'revising'
        ? 'Hand in again'
        : 'Hand in',
  );
  const { done, asked } = $derived(partsDone(session.mask));

  $effect(() => clock.run(10_000));
  $effect(() => {
    if (view) untrack(() => view && store.draw(view));
  });
  onMount(() => {
    if (copy.openers.length === 0)
      void send(`/pages/${data.page}/opened`, {}).catch(() => undefined);
    const close = followPage(session, {
      threads: () => mayWork && void store.refresh(view),
      copy(row) {
        if (row) copy = row;
        else if (mayWork) void look();
      },
    });
    const warn = (event: BeforeUnloadEvent) => session.save !== 'saved' && event.preventDefault();
    addEventListener('beforeunload', warn);
    return () => {
      close();
      removeEventListener('beforeunload', warn);
    };
  });

  async function move(body: { move: 'hand in'; note: string } | { move: 'take back' }) {
    moving = true;
    trouble = '';
    try {
      await session.flush();
      await send(`/pages/${data.page}/moves`, body);
      await look();
      session.tryAgain();
      note.text = '';
    } catch (error) {
      trouble = `${error instanceof Error ? error.message : 'This was not done.'} Your words are kept.`;
    } finally {
      moving = false;
      handing = false;
    }
  }
</script>

<div class="flex min-h-0 flex-1 max-lg:flex-col max-lg:overflow-auto">
  <div class="flex min-w-0 flex-1 flex-col max-lg:shrink-0">
    <main class="min-h-0 flex-1 overflow-auto px-4 pt-3.5 max-sm:px-0 lg:px-14">
      <div
        class="mx-auto min-h-full max-w-[52rem] border border-rule bg-(--page) px-9 pt-6 pb-10 max-sm:border-x-0 max-sm:px-7"
      >
        <p class="text-sm text-ink2">
          {data.me}{data.shared.length > 0 && data.shared.length < 8
            ? `, with ${data.shared.join(', ')}`
            : data.shared.length > 0
              ? `, with ${data.shared.length} others`
              : ''} · {data.assignment.class}
          {data.assignment.course}
        </p>
        <h1 class="font-page text-2xl font-semibold">{data.assignment.title}</h1>
        {#if data.assignment.instructions}
          <p class="mt-2 border-l-3 border-rule bg-paper px-4 py-2 whitespace-pre-line text-ink2">
            {data.assignment.instructions}
          </p>
        {/if}
        {#if copy.replaced}<p class="notice mt-2">
            You were given another page for this. What stands here is kept for you to read.
          </p>{/if}
        <!-- The toolbar goes with the page, and not with its history. -->
        <div>
          {#if writable && !isTask}<div class="sticky top-0 z-10 mt-2 -ml-2 bg-(--page)">
              <PageToolbar {session} {view} kind="copy" {warn} />
            </div>{/if}
          {#if session.setAside.length + session.kept.length > 0}<SetAside {session} {view} />{/if}
          <div class="mt-1 pl-4" hidden={isTask}>
            <PageView
              {session}
              label="{data.assignment.title}, your copy"
              editable={writable}
              bind:view
            />
          </div>
        </div>
        {#if feedback}{@const { scoring, by, at } =
            feedback}{#await import('$ui/marking/FeedbackSheet.svelte') then { default: FeedbackSheet }}<FeedbackSheet
              {scoring}
              {by}
              at={when(at, clock.now, data.timeZone)}
              points={copy.points}
              most={data.assignment.points}
            />{/await}{/if}
        {#if !isTask && copy.delivery !== 'to read'}<HowWritten
            page={data.page}
            flush={() => session.flush()}
          />{/if}
      </div>
    </main>
    <footer
      class="flex flex-wrap items-center gap-x-4 gap-y-2 border-t border-rule bg-sheet px-6 py-2.5 max-lg:sticky max-lg:bottom-0 max-lg:z-20"
    >
      {#if !mayWork}<p class="min-w-0 flex-1 text-ink2">To read.</p>{:else}<Rosette
          mask={session.mask}
          state={stands === 'unopened' || stands === 'opened'
            ? 'working'
            : stands === 'marked'
              ? 'handed in'
              : stands}
          {flags}
          points={copy.points}
          size={40}
        />
        <p class="min-w-0 flex-1 leading-tight max-sm:basis-3/4">
          {#if isTask}<strong>{writable ? 'Say when you have done it' : 'Done'}</strong
            >{:else}<strong>{done} of {asked} parts done</strong><br />
            <span class="text-sm text-ink2"><SaveWords {session} timeZone={data.timeZone} /></span
            >{/if}
        </p>
        {#if data.assignment.due !== null && writable}
          <span class={['text-sm max-sm:flex-1', flags.overdue ? 'text-rust' : 'text-ink2']}>
            Due {when(data.assignment.due, clock.now, data.timeZone)}, {away(
              data.assignment.due,
              clock.now,
            )}
          </span>
        {/if}
        {#if writable && isClosed}
          <span class="text-sm text-rust"
            >It was due, and is not taken any more. Ask {data.assignment.from} for more time.</span
          >
        {:else if writable}
          <button
            class="act act-main min-h-11 px-5 text-lg"
            disabled={moving}
            onclick={() => (handing = true)}>{handWord}</button
          >
        {:else}
          <span class="text-sm text-ink2"
            >handed in {copy.facts.handedIn
              ? when(copy.facts.handedIn, clock.now, data.timeZone)
              : ''}{flags.late ? ', late' : ''}</span
          >
          {#if takeBackFault(copy.facts, lateRule, clock.now) === null}<button
              class="act min-h-11"
              disabled={moving}
              onclick={() => move({ move: 'take back' })}>Take back</button
            >{/if}
        {/if}{/if}
    </footer>
  </div>
  <aside
    class="w-84 shrink-0 overflow-auto border-l border-rule bg-sheet px-4.5 py-5 max-lg:w-full max-lg:border-t max-lg:border-l-0"
    aria-labelledby="from"
  >
    <h2 id="from" class="mb-3 font-bold">From {data.assignment.from}</h2>
    {#if trouble || session.sentence}<p class="trouble mb-3" role="alert">
        {trouble || session.sentence}
      </p>{/if}
    {#if copy.points !== null}
      <p class="mb-3 rounded-lg border border-rule px-4 py-3 text-lg">
        <strong>{writePoints(copy.points)}</strong>{data.assignment.points
          ? ` of ${writePoints(data.assignment.points)}`
          : ''} points
      </p>
    {/if}
    {#if store.threads.length === 0}
      <p class="text-sm text-ink2">
        {!mayWork
          ? 'No comments.'
          : isWithTeacher(stands)
            ? 'Your teacher has it now. What comes back will stand here.'
            : 'Nothing yet. Comments on your words will stand here.'}
      </p>
    {/if}
    <Margin {store} {view} now={clock.now} timeZone={data.timeZone} />
    {#if data.assignment.points}<p class="mt-5 border-t border-rule pt-3 text-sm text-ink2">
        It counts for {writePoints(data.assignment.points)} points.
      </p>{/if}
  </aside>
</div>

<Sheet bind:open={handing} title="Hand in {data.assignment.title}">
  <p class="mt-2">
    {isTask
      ? ''
      : done === asked
        ? 'All parts are done.'
        : `${done} of ${asked} parts are done; you can hand in all the same.`} You can take it back until
    your teacher looks at it.
  </p>
  <label class="mt-3 block"
    ><span class="label">A note to {data.assignment.from}, if you like</span>
    <textarea class="field" rows="3" maxlength="1000" bind:value={note.text}></textarea></label
  >
  <div class="mt-4 flex justify-end gap-2">
    <button class="act" onclick={() => (handing = false)}>Cancel</button>
    <button
      class="act act-main"
      disabled={moving}
      onclick={() => move({ move: 'hand in', note: note.text })}
      >{isTask ? handWord : 'Hand in'}</button
    >
  </div>
</Sheet>
