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
  import { talkOf } from '$ui/attached/talk';
  import OwnAttached from '$ui/attached/OwnAttached.svelte';
  import { wholeMask } from '$core/attached/attached';
  import { writePoints } from '$core/marking/points';
  import { partsDone } from '$core/page/parts';
  import { Clock } from '$ui/clock.svelte';
  import { ThreadStore } from '$ui/comments/thread-store.svelte';
  import { Draft } from '$ui/draft.svelte';
  import Rosette from '$ui/copy/Rosette.svelte';
  import HowWritten from '$ui/history/HowWritten.svelte';
  import { followPage } from '$ui/page/follow-page';
  import { pagePlugins } from '$ui/page/page-plugins';
  import { NotSaved, PageSession } from '$ui/page/page-session.svelte';
  import PageToolbar from '$ui/page/PageToolbar.svelte';
  import PageView from '$ui/page/PageView.svelte';
  import SaveWords from '$ui/page/SaveWords.svelte';
  import { threadHighlights } from '$ui/page/thread-highlights';
  import { fetchJson, send } from '$ui/send';
  import { trail } from '$ui/shell/trail.svelte';
  import { away, when } from '$core/calendar/say-time';
  import { listed } from '$core/lists/listed';

  import { OwnStanding } from './own-standing.svelte';
  import type { PageData } from './$types';

  let { data }: { data: PageData } = $props();
  const clock = new Clock();
  let view: EditorView | null = $state(null);
  let trouble = $state('');
  const note = untrack(() => new Draft(`note ${data.page}`));
  let handing = $state(false);
  let moving = $state(false);
  const warn = (sentence: string) => (trouble = sentence);

  const session: PageSession = untrack(
    () =>
      new PageSession({
        page: data.page,
        version: data.version,
        doc: data.doc,
        setAside: data.setAside,
        plugins: [
          ...pagePlugins({ kind: 'copy', guarded: () => own.now.assignment.guarded, warn }),
          threadHighlights((thread) => {
            store.choose(thread, view);
            document.getElementById(`thread-${thread}`)?.scrollIntoView({ block: 'nearest' });
          }),
        ],
      }),
  );
  const store = untrack(() => new ThreadStore(session, data.margin));

  const own: OwnStanding = untrack(() => new OwnStanding(data.standing, session, data.timeZone));
  const { copy, assignment, shared } = $derived(own.now);

  /** The feedback sheet comes with the copy when it is handed back. */
  let feedback = $state.raw(untrack(() => data.feedback));
  const { given, lastTime } = $derived(feedback);
  let ownScoring = $state.raw(untrack(() => data.ownScoring));
  let back = untrack(() => data.standing.copy.facts.handedBack);
  $effect(() => {
    if (copy.facts.handedBack === back) return;
    back = copy.facts.handedBack;
    // What waited for that is in the margin now.
    void store.refresh(view);
    void fetchJson<typeof feedback>(`/pages/${data.page}/feedback`)
      .then((came) => (feedback = came))
      .catch(() => undefined);
  });

  const stands = $derived(stateOf(copy.facts));
  const flags = $derived({ ...flagsOf(copy.facts, clock.now), unread: false, now: false });
  /** Of one that was handed out to read, or replaced by another, nothing is asked. */
  const mayWork = $derived(own.now.mayWork && !own.gone);
  const isTask = $derived(assignment.form === 'done or not');
  const lateRule = $derived(assignment.late);
  const isClosed = $derived(handInFault(copy.facts, lateRule, clock.now) === 'comes too late');
  const writable = $derived(mayWork && mayWrite(stands));
  const handWord = $derived(
    isTask
      ? 'I have done it'
      : copy.each
        ? 'I am done'
        : stands === 'handed back' || stands === 'revising'
          ? 'Hand in again'
          : 'Hand in',
  );
  /** When the loss was that its student leaves as it is. */
  let left = $state(0);
  const loss = $derived(writable && copy.loss?.at !== left ? copy.loss : null);
  const mask = $derived(wholeMask(session.mask, copy.attached));
  const { done, asked } = $derived(partsDone(mask));

  $effect(() => {
    if (session.save === 'refused') void own.refused();
  });
  $effect(() => clock.run(10_000));
  $effect(() => {
    if (view) untrack(() => view && store.draw(view));
  });
  $effect(() => trail.rename(assignment.title));
  onMount(() => {
    if (copy.openers.length === 0)
      void send(`/pages/${data.page}/opened`, {}).catch(() => undefined);
    const close = followPage(session, {
      threads: () => mayWork && void store.refresh(view),
      copy: (copy) => (copy ? (own.now = { ...own.now, copy }) : void own.heard()),
      loss: (loss) => (own.now = { ...own.now, copy: { ...own.now.copy, loss } }),
      changed: { class: assignment.class_id, hear: () => void own.heard() },
    });
    const warn = (event: BeforeUnloadEvent) => session.save !== 'saved' && event.preventDefault();
    addEventListener('beforeunload', warn);
    return () => {
      close();
      removeEventListener('beforeunload', warn);
    };
  });

  /** Something was to be done, and the words on the page were not saved yet. */
  let isWaiting = $state(false);
  const shown = $derived(
    trouble ||
      session.sentence ||
      (isWaiting && session.save !== 'saved'
        ? 'This was not done, because your words are not saved yet. They are kept; please try again in a moment.'
        : ''),
  );
  async function move(body: { move: 'hand in'; note: string } | { move: 'take back' }) {
    moving = true;
    trouble = '';
    isWaiting = false;
    try {
      await session.flush();
      await send(`/pages/${data.page}/moves`, body);
      await own.heard();
      note.text = '';
    } catch (error) {
      isWaiting = error instanceof NotSaved;
      if (!isWaiting) trouble = error instanceof Error ? error.message : 'This was not done.';
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
          <bdi>{data.me}</bdi>{shared.length > 0 && shared.length < 8
            ? `, with ${shared.join(', ')}`
            : shared.length > 0
              ? `, with ${shared.length} others`
              : ''} · {assignment.class}
          {assignment.course}
        </p>
        <h1 class="font-page text-2xl font-semibold">{assignment.title}</h1>
        {#if copy.student === null && writable}{#await import('$ui/page/AlsoHere.svelte') then { default: AlsoHere }}<AlsoHere
              {session}
              {view}
            />{/await}{/if}
        {#if assignment.instructions}
          <p class="mt-2 border-l-3 border-rule bg-paper px-4 py-2 whitespace-pre-line text-ink2">
            {assignment.instructions}
          </p>
        {/if}
        {#if own.gone || copy.replaced}<p class="notice mt-2">
            {#if own.instead}You were given another page for this.{:else if own.gone}This page is
              out of your sight now: it was withdrawn, or its class is closed.{:else}You were given
              another page for this.{/if}
            {own.gone ? 'Nothing in it is lost.' : 'What stands here is kept for you to read.'}
            {#if own.instead}<a href="/work/{own.instead}">Go to your page</a>{/if}
          </p>{/if}
        <!-- The toolbar goes with the page, and not with its history. -->
        <div>
          {#if writable && !isTask}<div class="sticky top-0 z-10 mt-2 -ml-2 bg-(--page)">
              <PageToolbar {session} {view} kind="copy" {warn} />
            </div>{/if}
          {#if session.setAside.length + session.kept.length > 0}{#await import('$ui/page/SetAside.svelte') then { default: SetAside }}<SetAside
                {session}
                {view}
              />{/await}{/if}
          {#if loss}{#await import('$ui/history/Lost.svelte') then { default: Lost }}<Lost
                page={data.page}
                {loss}
                now={clock.now}
                timeZone={data.timeZone}
                flush={() => session.flush()}
                leave={() => (left = loss.at)}
              />{/await}{/if}
          <div class="mt-1 pl-4" hidden={isTask}>
            <PageView
              {session}
              label="{assignment.title}, your copy"
              editable={writable}
              bind:view
            />
          </div>
        </div>
        {#if copy.delivery !== 'to read' && (writable || copy.attached.length + data.earlier.length > 0)}<OwnAttached
            page={data.page}
            attached={copy.attached}
            earlier={data.earlier}
            {writable}
            now={clock.now}
            timeZone={data.timeZone}
            changed={() => void own.heard()}
            talk={talkOf(store, null)}
          />{/if}
        {#if ownScoring && mayWork && stands !== 'handed back'}{#await import('$ui/marking/StudentScoring.svelte') then { default: StudentScoring }}<StudentScoring
              page={data.page}
              what="own-scoring"
              title="Score it yourself"
              says="Your teacher sees what you choose, and scores it by the same rubric afterwards."
              bind:asked={ownScoring}
              {writable}
            />{/await}{/if}
        {#if given?.scoring}{@const { scoring, by, at } =
            given}{#await import('$ui/marking/FeedbackSheet.svelte') then { default: FeedbackSheet }}<FeedbackSheet
              {scoring}
              own={ownScoring?.last?.scoring ?? null}
              {by}
              at={when(at, clock.now, data.timeZone)}
              points={copy.points}
              most={assignment.points}
            />{/await}{/if}
        {#if feedback.classmates.length > 0}{#await import('$ui/marking/FromClassmates.svelte') then { default: FromClassmates }}<FromClassmates
              given={feedback.classmates}
            />{/await}{/if}
        {#if !isTask && copy.delivery !== 'to read'}<HowWritten
            at="/pages/{data.page}"
            flush={() => session.flush()}
          />{/if}
      </div>
    </main>
    <footer
      class="flex flex-wrap items-center gap-x-4 gap-y-2 border-t border-rule bg-sheet px-6 py-2.5 max-lg:sticky max-lg:bottom-0 max-lg:z-20"
    >
      {#if !mayWork}<p class="min-w-0 flex-1 text-ink2">
          {own.gone ? '' : 'To read.'}
        </p>{:else}<Rosette
          {mask}
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
        {#if flags.excused}<span class="text-sm text-plum max-sm:flex-1"
            >You are excused: nothing is asked of you here.</span
          >{:else if assignment.due !== null && writable}
          <span class={['text-sm max-sm:flex-1', flags.overdue ? 'text-rust' : 'text-ink2']}>
            Due {when(assignment.due, clock.now, data.timeZone)}, {away(assignment.due, clock.now)}
          </span>
        {/if}
        {#if stands === 'attached'}<span class="text-sm font-bold text-rust"
            >Attached, and not handed in yet.</span
          >{/if}
        {#if writable && isClosed}
          <span class="text-sm text-rust"
            >It was due, and is not taken any more. Ask {assignment.from} for more time.</span
          >
        {:else if writable}
          <button
            class={['act min-h-11 px-5 text-lg', !flags.excused && 'act-main']}
            disabled={moving}
            onclick={() => (handing = true)}>{handWord}</button
          >
        {:else}
          <span class="text-sm text-ink2"
            >{copy.each ? 'you said that you are done' : 'handed in'}
            {copy.facts.handedIn
              ? when(copy.facts.handedIn, clock.now, data.timeZone)
              : ''}{flags.late ? ', late' : ''}</span
          >
          {#if takeBackFault(copy.facts, lateRule, clock.now, assignment.marking) === null}<button
              class="act min-h-11"
              disabled={moving}
              onclick={() => move({ move: 'take back' })}>Take back</button
            >{/if}
        {/if}{/if}
    </footer>
  </div>
  <aside
    class={[
      'w-84 shrink-0 overflow-auto border-l border-rule bg-sheet px-4.5 py-5 max-lg:w-full max-lg:border-t max-lg:border-l-0',
      // On a narrow screen what came back is found first.
      stands === 'handed back' && 'max-lg:order-first max-lg:border-t-0 max-lg:border-b',
    ]}
    aria-labelledby="from"
  >
    <h2 id="from" class="mb-3 font-bold">From your teachers</h2>
    {#if shown}<p class="trouble mb-3" role="alert">{shown}</p>{/if}
    {#if own.news.length > 0}<div class="notice mb-3" role="status">
        {#each own.news as says (says)}<p>{says}</p>{/each}
        <button class="act act-small mt-2" onclick={() => (own.news = [])}>Seen</button>
      </div>{/if}
    {#if copy.points === null && store.threads.length + (store.proposals?.all.length ?? 0) === 0}
      <p class="text-sm text-ink2">
        {!mayWork
          ? 'No comments.'
          : isWithTeacher(stands) && !copy.each
            ? 'Your teacher has it now. What comes back will stand here.'
            : 'Nothing yet. Comments on your words will stand here.'}
      </p>
    {/if}
    {#if writable && !isClosed && (stands === 'handed back' || stands === 'revising')}{#await import('./WhatNext.svelte') then { default: WhatNext }}<WhatNext
          {store}
        />{/await}{/if}
    {#if store.threads.length > 0 || store.proposals || store.sentence}{#await import('$ui/comments/Margin.svelte') then { default: Margin }}<Margin
          {store}
          {view}
          now={clock.now}
          timeZone={data.timeZone}
          mayDecide={writable}
        />{/await}{/if}
    {#if copy.points !== null}
      <p class="mt-5 mb-3 rounded-lg border border-rule px-4 py-3 text-lg">
        <strong>{writePoints(copy.points)}</strong>{assignment.points
          ? ` of ${writePoints(assignment.points)}`
          : ''} points
      </p>
    {/if}
    {#if given?.why}<p class="mb-3 border-l-3 border-ice bg-ice-pale px-3 py-1">
        {given.why} <span class="text-sm text-ink2">{given.by}</span>
      </p>{/if}
    {#if lastTime && copy.points !== null}{@const before =
        lastTime}{#await import('$ui/marking/BeforeAndNow.svelte') then { default: BeforeAndNow }}<BeforeAndNow
          {before}
          {given}
          now={clock.now}
          timeZone={data.timeZone}
        />{/await}{/if}
    {#if given?.checked}{@const { checked } =
        given}{#await import('$ui/marking/CheckedSheet.svelte') then { default: CheckedSheet }}<div
          class="mb-5"
        >
          <CheckedSheet {checked} />
        </div>{/await}{/if}
    {#if assignment.points}<p class="mt-5 border-t border-rule pt-3 text-sm text-ink2">
        It counts for {writePoints(assignment.points)} points.
      </p>{/if}
  </aside>
</div>

<Sheet
  bind:open={handing}
  title={copy.each
    ? `Say that you are done with ${assignment.title}`
    : `Hand in ${assignment.title}`}
>
  <p class="mt-2">
    {isTask
      ? ''
      : done === asked
        ? 'All parts are done.'
        : `${done} of ${asked} parts are done${copy.each ? '.' : '; you can hand in all the same.'}`}
    {copy.each ? 'The others go on with it. With the last of you to be done it is handed in.' : ''}
    {assignment.marking === 'by hand'
      ? 'You can take it back until your teacher looks at it.'
      : 'It is marked at once, so you cannot take it back.'}
  </p>
  {#if copy.attached.length > 0}<p class="mt-2 wrap-anywhere">
      With it {copy.attached.length === 1 ? 'goes' : 'go'}
      {listed(copy.attached.map(({ name }) => name))}.
    </p>{/if}
  {#if ownScoring && !ownScoring.last}<p class="mt-2">
      You have not scored it yourself yet; you can hand it in all the same.
    </p>{/if}
  {#if flags.overdue}<p class="mt-2 text-rust">
      It was due {when(assignment.due ?? 0, clock.now, data.timeZone)}: it will be marked as late.
    </p>{/if}
  {#if shared.length > 0 && !copy.each}<p class="mt-2">
      You hand it in for {shared.length < 8
        ? listed(['yourself', ...shared])
        : `yourself and ${shared.length} others`}; they are notified that you did.
    </p>{/if}
  <label class="mt-3 block"
    ><span class="label">A note to {assignment.from}, if you like</span>
    <textarea class="field" rows="3" maxlength="1000" bind:value={note.text}></textarea></label
  >
  <div class="mt-4 flex justify-end gap-2">
    <button class="act" onclick={() => (handing = false)}>Cancel</button>
    <button
      class="act act-main"
      disabled={moving}
      onclick={() => move({ move: 'hand in', note: note.text })}
      >{isTask || copy.each ? handWord : 'Hand in'}</button
    >
  </div>
</Sheet>
