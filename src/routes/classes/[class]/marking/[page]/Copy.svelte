<script lang="ts">
  import type { EditorView } from 'prosemirror-view';
  import { onMount, untrack } from 'svelte';
  import { goto, preloadData } from '$app/navigation';
  import { flagsOf, isWithTeacher, marginOf, notDone, stateOf } from '$core/copy/state';
  import { listed } from '$core/lists/listed';
  import Earlier from '$ui/attached/Earlier.svelte';
  import AttachedList from '$ui/attached/AttachedList.svelte';
  import { talkOf } from '$ui/attached/talk';
  import { Clock } from '$ui/clock.svelte';
  import Margin from '$ui/comments/Margin.svelte';
  import FromClassmates from '$ui/marking/FromClassmates.svelte';
  import BeforeAndNow from '$ui/marking/BeforeAndNow.svelte';
  import { ThreadStore } from '$ui/comments/thread-store.svelte';
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
  import StampMenu from '$ui/stamps/StampMenu.svelte';
  import { StampHand } from '$ui/stamps/stamp-hand.svelte';
  import { stampPlacing } from '$ui/stamps/stamp-placing';
  import { verdictHighlights } from '$ui/page/verdict-highlights';
  import Choice from '$ui/fields/Choice.svelte';
  import { readAgain, refreshOnNews } from '$ui/refresh';
  import { send } from '$ui/send';
  import { serverNow } from '$ui/server-time';
  import { passageOf } from '$core/history/passage-of';
  import { lengthOf, when } from '$core/calendar/say-time';
  import type { PageData } from './$types';
  import Apart from './Apart.svelte';
  import ByParts from './ByParts.svelte';
  import CommentForm from './CommentForm.svelte';
  import type { CopyLine as CopyLineModel } from './copy-line.svelte';
  import CopyLine from './CopyLine.svelte';
  import { CopyManner, mannersFor } from './copy-manner.svelte';
  import Given from './Given.svelte';
  import Points from './Points.svelte';
  import RecordLine from './RecordLine.svelte';
  import ScoreByRubric from './ScoreByRubric.svelte';

  interface Props {
    data: PageData;
    klass: string;
    line: CopyLineModel;
  }
  let { data, klass, line }: Props = $props();

  /** The next copy is fetched so long after this one is there; one that was fetched earlier than this ago is read again: ms. */
  const [AHEAD, FRESH] = [150, 2000];
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
          // Before the others, which keep Enter from a page that is only read.
          stampPlacing(
            () => stamps.picked !== null && data.mayMark,
            (place) => void stamps.put(place, view),
          ),
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
  const stamps: StampHand = untrack(() => new StampHand(store, () => waits));
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
      // What was kept back goes out with the copy.
      copy: () => void store.refresh(view),
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

  async function withhold(by: string, withheld: boolean) {
    try {
      await send(`/pages/${data.page}/classmates-scoring`, { by, withheld }, 'PUT');
    } catch (error) {
      manner.warn(error instanceof Error ? error.message : '');
    }
    await changed();
  }

  /** What is said of a change, once there was something before. */
  const why = $derived(data.before && !data.apart ? (data.given?.why ?? '') : null);
  const move = $derived(data.apart ? 'score apart' : 'score');
  /** "Ada Fennick", or of a shared copy all who share it. */
  const owner = $derived(data.who.map(({ name }) => name).join(', '));
  const copy = $derived(data.copy);
  const handedIn = $derived(copy.facts.handedIn);
  const stands = $derived(stateOf(copy.facts));
  const flags = $derived(flagsOf(copy.facts, clock.now));
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
  const leadsTo = (one: { copy: { id: string } } | null) =>
    one && `/classes/${klass}/marking/${one.copy.id}`;
  function go(by: 1 | -1) {
    const to = leadsTo(line.beside(data.page, by));
    if (to) void goto(to, { keepFocus: true });
  }
  const next = $derived(leadsTo(line.beside(data.page, 1)));
  // The next copy is fetched while this one is read; again, when this one or the line was read again.
  $effect(() => {
    const to = data.now && next;
    if (!to || !view) return;
    const timer = setTimeout(() => void preloadData(to).catch(() => undefined), AHEAD);
    return () => clearTimeout(timer);
  });
  onMount(() => {
    if (serverNow() - data.now < FRESH) return;
    void session.hear();
    void changed().catch(() => undefined);
    void store.refresh(view);
  });
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
  <CopyLine {line} {klass} {data} now={clock.now} {go} />
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
    {#if data.before && !data.apart}<BeforeAndNow
        before={data.before}
        given={data.given}
        now={clock.now}
        timeZone={data.timeZone}
      />{/if}
    {#if !data.mayMark}
      <Given
        {copy}
        most={data.assignment.points}
        given={data.given}
        by={data.given?.by ?? ''}
        at={data.given ? when(data.given.at, clock.now, data.timeZone) : ''}
      />
    {:else if data.apart && (!data.apart.isOne || data.apart.bothThere)}
      <Apart apart={data.apart} settle="{assignment}/markers" />
    {:else if data.rubric}
      {#if data.apart}<Apart apart={data.apart} settle="{assignment}/markers" />{/if}
      <!-- A rubric that was changed is another form, and so is a scoring apart. -->
      {#key `${data.rubric.version} ${move}`}<ScoreByRubric
          page={data.page}
          {assignment}
          rubric={data.rubric}
          scoring={data.given?.scoring ?? null}
          own={data.own}
          classmates={data.classmates}
          score={data.last.score}
          {why}
          most={data.assignment.points}
          {stands}
          {move}
          {changed}
          comment={(criterion) => {
            store.picked = null;
            store.criterion = criterion;
            saying?.focus();
          }}
          makeEqual={data.mayChange ? makeEqual : null}
        />{/key}
      {#if data.classmates.length > 0}<FromClassmates given={data.classmates} {withhold} />{/if}
    {:else}{#if data.apart}<Apart
          apart={data.apart}
          settle="{assignment}/markers"
        />{/if}{#if data.byParts}<ByParts
          page={data.page}
          checked={data.given?.checked ?? null}
          score={data.last.score}
          {move}
          {changed}
        />{/if}<Points
        page={data.page}
        copy={data.last}
        {why}
        most={data.assignment.points}
        {stands}
        {move}
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
      >
        {#if manner.now === 'comment'}<StampMenu
            hand={stamps}
            {view}
            selected={selected !== ''}
          />{/if}
      </CommentForm>{/if}
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
