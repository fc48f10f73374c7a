<script lang="ts">
  import Tip from '$ui/fields/Tip.svelte';
  import ArrowDown from '@lucide/svelte/icons/arrow-down';
  import ArrowUp from '@lucide/svelte/icons/arrow-up';
  import type { EditorView } from 'prosemirror-view';
  import { onMount, untrack } from 'svelte';
  import { goto } from '$app/navigation';
  import { flagsOf, isWithTeacher, marginOf, notDone, stateOf } from '$core/copy/state';
  import { listed } from '$core/lists/listed';
  import Earlier from '$ui/attached/Earlier.svelte';
  import AttachedList from '$ui/attached/AttachedList.svelte';
  import { talkOf } from '$ui/attached/talk';
  import { Clock } from '$ui/clock.svelte';
  import Margin from '$ui/comments/Margin.svelte';
  import { ThreadStore } from '$ui/comments/thread-store.svelte';
  import Rosette from '$ui/copy/Rosette.svelte';
  import { newHighlights } from '$ui/history/new-marks';
  import NewSince from '$ui/history/NewSince.svelte';
  import HowWritten from '$ui/history/HowWritten.svelte';
  import { isWriting } from '$ui/is-writing';
  import { followPage } from '$ui/page/follow-page';
  import { pagePlugins } from '$ui/page/page-plugins';
  import { PageSession } from '$ui/page/page-session.svelte';
  import PageToolbar from '$ui/page/PageToolbar.svelte';
  import PageView from '$ui/page/PageView.svelte';
  import { threadHighlights } from '$ui/page/thread-highlights';
  import { verdictHighlights } from '$ui/page/verdict-highlights';
  import Choice from '$ui/fields/Choice.svelte';
  import { readAgain, refreshOnNews } from '$ui/refresh';
  import { send } from '$ui/send';
  import { passageOf } from '$core/history/passage-of';
  import { lengthOf, when } from '$core/calendar/say-time';
  import type { PageData } from './$types';
  import ByKey from './ByKey.svelte';
  import CommentForm from './CommentForm.svelte';
  import { CopyManner, mannersFor } from './copy-manner.svelte';
  import Given from './Given.svelte';
  import Points from './Points.svelte';
  import RecordLine from './RecordLine.svelte';
  import ScoreByRubric from './ScoreByRubric.svelte';

  let { data, klass }: { data: PageData; klass: string } = $props();
  const clock = new Clock();
  let view: EditorView | null = $state(null);
  let saying: HTMLTextAreaElement | undefined = $state();

  function chooseThread(thread: string) {
    store.choose(thread, view);
    document.getElementById(`thread-${thread}`)?.scrollIntoView({ block: 'nearest' });
  }

  const session = untrack(
    () =>
      new PageSession({
        page: data.page,
        version: data.version,
        doc: data.doc,
        setAside: [],
        plugins: [
          ...pagePlugins({
            kind: 'copy',
            guarded: () => data.assignment.guarded,
            warn: (sentence) => manner.warn(sentence),
          }),
          verdictHighlights(data.keys),
          newHighlights(data.newSince?.places ?? []),
          threadHighlights(chooseThread),
        ],
      }),
  );
  /** As it was when the view was opened: being here is a look, too. */
  const newSince = untrack(() => data.newSince);
  const store = untrack(() => new ThreadStore(session, data.margin));

  /** Whether what is written in the margin waits until the copy goes back: remembered for the assignment. */
  let waits = $state(untrack(() => data.feedbackWaits));
  const manner: CopyManner = untrack(
    () =>
      new CopyManner(session, {
        guarded: data.assignment.guarded,
        plugins: () => [threadHighlights(chooseThread)],
        keptBack: () => waits,
        proposed: (margin) => store.take(margin),
      }),
  );
  async function setWaits(next: boolean) {
    waits = next;
    if (!data.mayChange) return;
    await send(`${assignment}/feedback-waits`, { waits: next }).catch((error: Error) =>
      manner.warn(error.message),
    );
  }
  $effect(() => {
    const away = () => manner.sendAway();
    addEventListener('pagehide', away);
    return () => {
      removeEventListener('pagehide', away);
      manner.end();
    };
  });

  $effect(() => clock.run(5000));
  /** What is looked at: once, and again when it is handed in again. */
  const looking = $derived(data.mayMark ? data.page : null);
  $effect(() => {
    const look = { move: 'look', handedIn, version: untrack(() => data.version) };
    if (looking) void send(`/pages/${looking}/marking`, look).catch(() => undefined);
  });
  $effect(() => {
    if (view) untrack(() => view && store.draw(view));
  });
  onMount(() =>
    followPage(session, {
      threads: () => void store.refresh(view),
      copy: () => undefined,
    }),
  );
  // Its record, points and the list of the others come with a copy's news.
  refreshOnNews(
    'uncia:marking',
    (heard) =>
      heard === 'resync' ||
      heard.some(
        (one) =>
          (one.kind === 'copy' && one.row.assignment === data.assignment.id) ||
          (one.kind === 'written' && one.page === data.page) ||
          (one.kind === 'class' && one.class === data.assignment.class_id),
      ),
  );

  const changed = () => readAgain('uncia:marking');
  const assignment = $derived(`/classes/${klass}/assignments/${data.assignment.id}`);
  async function makeEqual() {
    await send(`${assignment}/rubric-points`, {});
    await changed();
  }

  /** "Ada Fennick", or of a shared copy all who share it. */
  const owner = $derived(data.who.map(({ name }) => name).join(', '));
  const copy = $derived(data.copy);
  const handedIn = $derived(copy.facts.handedIn);
  const stands = $derived(stateOf(copy.facts));
  const flags = $derived(flagsOf(copy.facts, clock.now));
  const toMark = $derived(
    data.owners.filter((one) => stateOf(one.copy.facts) === 'handed in').length,
  );
  const minutes = $derived(
    Math.round(data.sittings.reduce((sum, { from, to }) => sum + (to - from), 0) / 60_000),
  );
  const note = $derived(data.record.findLast((entry) => entry.what === 'handed in')?.note ?? '');
  /** Of a page that each says *done* of, while it is with them. */
  const waitsFor = $derived.by(() => {
    const open = isWithTeacher(stands) || stands === 'handed back' ? null : notDone(copy);
    if (!open?.length) return '';
    const names = data.who.filter(({ id }) => open.includes(id)).map(({ name }) => name);
    return `${copy.members.length - open.length} of ${copy.members.length} have said that they are done. Not yet: ${listed(names)}.`;
  });
  /** What is said next is tied to, in a line; empty for the whole copy. */
  const selected = $derived.by(() => {
    const { doc, selection } = manner.editing.state;
    return selection.empty ? '' : passageOf(doc, selection.from, selection.to, 42);
  });

  function timing() {
    const { handedIn } = copy.facts;
    if (handedIn === null) return stands;
    const by = marginOf(copy.facts);
    const margin = by === null ? '' : `, ${lengthOf(Math.abs(by))} ${by > 0 ? 'late' : 'early'}`;
    return `${stands === 'handed in' || stands === 'marked' ? 'handed in' : `${stands}; handed in`} ${when(handedIn, clock.now, data.timeZone)}${margin}`;
  }
  function go(by: 1 | -1) {
    const index = data.owners.findIndex((one) => one.copy.id === data.page) + by;
    const next = data.owners[index];
    if (next) void goto(`/classes/${klass}/marking/${next.copy.id}`, { keepFocus: true });
  }
  function keys(event: KeyboardEvent) {
    if (isWriting(event) || event.ctrlKey || event.metaKey) return;
    if (event.key === '[' || event.key === ']') {
      event.preventDefault();
      go(event.key === ']' ? 1 : -1);
    }
    if (event.key === 'c' && selected) {
      event.preventDefault();
      saying?.focus();
    }
  }
</script>

<svelte:window onkeydown={keys} />

<div class="flex min-h-0 flex-1 max-lg:flex-col max-lg:overflow-auto">
  <nav
    class="flex w-53 shrink-0 flex-col overflow-hidden border-r border-rule bg-sheet max-lg:w-full max-lg:border-r-0"
    aria-label="Students"
  >
    <p class="flex items-center gap-2 px-3 py-2 font-bold">
      <span class="flex-1">{toMark} to mark</span>
      <Tip says="Previous student, [" class="act act-small min-w-8 px-0" onclick={() => go(-1)}
        ><ArrowUp size={16} aria-hidden="true" /></Tip
      >
      <Tip says="Next student, ]" class="act act-small min-w-8 px-0" onclick={() => go(1)}
        ><ArrowDown size={16} aria-hidden="true" /></Tip
      >
    </p>
    <ul class="min-h-0 flex-1 overflow-auto max-lg:max-h-40">
      {#each data.owners as one (one.copy.id)}
        {@const theirs = stateOf(one.copy.facts)}
        <li>
          <a
            href="/classes/{klass}/marking/{one.copy.id}"
            class={[
              'flex items-center gap-3 border-l-3 px-2.5 py-1 text-ink no-underline',
              one.copy.id === data.page
                ? 'border-ice bg-ice-pale'
                : 'border-transparent hover:bg-paper',
            ]}
            aria-current={one.copy.id === data.page ? 'page' : undefined}
          >
            <Rosette
              mask={one.copy.mask}
              state={theirs}
              flags={flagsOf(one.copy.facts, clock.now)}
              points={one.copy.points}
              size={27}
            />
            <span class="truncate">{one.name}<span class="sr-only">, {theirs}</span></span>
          </a>
        </li>
      {/each}
    </ul>
  </nav>
  <main class="flex min-w-0 flex-1 flex-col max-lg:shrink-0">
    <div class="flex items-center gap-x-3 px-5 py-2.5 max-sm:flex-wrap">
      <h1 class="shrink-0 text-lg font-bold">{owner}</h1>
      {#if data.mayMark}<div class="order-last shrink-0">
          <Choice
            label="How you write in this copy"
            options={mannersFor(data.mayWrite)}
            bind:value={() => manner.now, (next) => void manner.choose(next)}
          />
        </div>{/if}
      <p class="min-w-0 flex-1 text-sm leading-tight text-ink2">
        {timing()} · {data.sittings.length === 1
          ? '1 sitting'
          : `${data.sittings.length} sittings`}, {minutes < 60
          ? `${minutes} min`
          : `${Math.floor(minutes / 60)} h ${minutes % 60} min`}{flags.now ? ' · writing now' : ''}
      </p>
    </div>
    {#if manner.sentence}<p class="trouble mx-5 mb-2" role="alert">
        {manner.sentence}
      </p>{/if}
    <div class="min-h-0 flex-1 overflow-auto px-5 pb-5">
      <div class="min-h-full border border-rule bg-(--page) px-9 py-5">
        <p class="font-page text-2xl font-semibold">{data.assignment.title}</p>
        {#if data.assignment.instructions}<p
            class="mt-2 border-l-3 border-rule bg-paper px-4 py-2 whitespace-pre-line text-ink2"
          >
            {data.assignment.instructions}
          </p>{/if}
        <NewSince since={newSince} {view} now={clock.now} timeZone={data.timeZone} />
        {#if note}<p class="mt-2 rounded-lg bg-ice-pale px-4 py-2">
            <strong>{copy.student ? `${owner.split(' ')[0]}’s note` : 'Their note'}:</strong>
            {note}
          </p>{/if}
        {#if waitsFor}<p class="mt-2 text-sm text-ink2">{waitsFor}</p>{/if}
        {#if manner.now !== 'comment'}<div class="sticky top-0 z-10 mt-2 -ml-2 bg-(--page)">
            <PageToolbar session={manner.editing} {view} kind="copy" warn={manner.warn} />
          </div>{/if}
        <div class="mt-1 pl-4">
          {#if manner.proposing}<PageView
              session={manner.proposing}
              label="{owner}’s copy, to propose in"
              editable
              answering={false}
              bind:view
            />{:else}<PageView
              {session}
              label="{owner}’s copy"
              editable={manner.now === 'write'}
              bind:view
            />{/if}
        </div>
        {#if copy.attached.length > 0}<h2 class="mt-6 mb-2 font-bold">Attached</h2>
          <AttachedList
            page={data.page}
            attached={copy.attached}
            now={clock.now}
            timeZone={data.timeZone}
            talk={talkOf(store, data.mayMark ? () => saying?.focus() : null)}
            lookAgain={data.mayMark
              ? (one) => void send(`/pages/${data.page}/attached/${one.id}/look`, {})
              : null}
          />{/if}
        {#if data.earlier.length > 0}<Earlier
            page={data.page}
            earlier={data.earlier}
            now={clock.now}
            timeZone={data.timeZone}
          />{/if}
        <HowWritten at="/pages/{data.page}" />
      </div>
    </div>
  </main>
  <aside
    class="w-93 shrink-0 overflow-auto border-l border-rule bg-sheet px-4 py-3 max-lg:w-full max-lg:border-t max-lg:border-l-0"
    aria-label="Feedback"
  >
    {#if !data.mayMark}
      <Given
        {copy}
        most={data.assignment.points}
        given={data.given}
        by={data.given?.by ?? ''}
        at={data.given ? when(data.given.at, clock.now, data.timeZone) : ''}
      />
    {:else if data.rubric}
      <!-- A rubric that was changed is another form. -->
      {#key data.rubric.version}<ScoreByRubric
          page={data.page}
          rubric={data.rubric}
          scoring={data.given?.scoring ?? null}
          score={copy.score}
          most={data.assignment.points}
          {stands}
          {changed}
          makeEqual={data.mayChange ? makeEqual : null}
        />{/key}
    {:else}{#if data.marksItself}<ByKey
          page={data.page}
          checked={data.given?.checked ?? null}
          score={copy.score}
          {changed}
        />{/if}<Points
        page={data.page}
        {copy}
        most={data.assignment.points}
        {stands}
        {changed}
        change={data.mayChange ? `${assignment}/change` : null}
      />{/if}
    <h2 class="mt-4 mb-2 font-bold">
      In the margin <span class="text-sm font-normal text-ink2"
        >{store.open.length} open{store.settled.length
          ? ` · ${store.settled.length} settled`
          : ''}</span
      >
    </h2>
    {#if data.mayMark}<CommentForm
        {store}
        {view}
        {copy}
        {selected}
        work={data.assignment.title}
        name={copy.student ? (data.who[0]?.name.split(' ')[0] ?? '') : ''}
        bind:waits={() => waits, (next) => void setWaits(next)}
        bind:field={saying}
      />{/if}
    <Margin
      {store}
      {view}
      now={clock.now}
      timeZone={data.timeZone}
      mayComment={data.mayMark}
      mayPropose={data.mayMark}
      isStaff
      keptBack={waits}
    />
    <h2 class="mt-5 mb-1 text-sm text-ink2">Record</h2>
    <ul class="text-sm text-ink2">
      {#each data.record as entry, index (index)}
        <RecordLine
          {entry}
          at={when(entry.at, clock.now, data.timeZone)}
          most={data.assignment.points}
        />
      {:else}<li>Not opened yet.</li>{/each}
    </ul>
  </aside>
</div>
