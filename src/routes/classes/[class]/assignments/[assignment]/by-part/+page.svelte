<script lang="ts">
  import { goto } from '$app/navigation';
  import { counted } from '$core/lists/counted';
  import { sayDiscrimination } from '$core/marking/item-figures';
  import { readPoints, writePoints } from '$core/marking/points';
  import type { PiledAnswer } from '$server/copy/part-piles';
  import type { CheckChange } from '$core/marking/check-change';
  import Bars from '$ui/charts/Bars.svelte';
  import OnOff from '$ui/fields/OnOff.svelte';
  import { isWriting } from '$ui/is-writing';
  import BehindNotice from '$ui/marking/BehindNotice.svelte';
  import WhoGains from '$ui/marking/WhoGains.svelte';
  import { readAgain, refreshOnNews } from '$ui/refresh';
  import { send } from '$ui/send';
  import PileCard from './PileCard.svelte';
  import { PileMoves } from './piles.svelte';

  let { data } = $props();
  const at = $derived(`/classes/${data.klass.id}/assignments/${data.assignment}`);
  const moves = $derived(new PileMoves(`${at}/by-part/moves`, () => readAgain('uncia:piles')));
  refreshOnNews(
    'uncia:piles',
    (heard) =>
      heard === 'resync' ||
      heard.some(
        (one) =>
          (one.kind === 'copy' && one.row.assignment === data.assignment) ||
          (one.kind === 'threads' && isLookedAt(one.page)) ||
          (one.kind === 'class' && data.classes.some(({ id }) => id === one.class)),
      ),
    1500,
  );

  let named = $state(false);
  const part = $derived(data.parts.find(({ id }) => id === data.part));
  const index = $derived(data.parts.findIndex(({ id }) => id === data.part));
  const most = $derived(data.byRubric ? null : (part?.most ?? null));
  /** Who wrote nothing lies together at the end, to be scored like others. */
  const piles = $derived([
    ...data.piles,
    ...(data.blank.length > 0
      ? [{ key: 'blank', answer: 'Not answered', answers: data.blank, nearly: false }]
      : []),
  ]);
  type Shown = (typeof piles)[number];
  const isLookedAt = (page: string) =>
    piles.some((pile) => pile.answers.some(({ copy }) => copy === page));
  const answers = $derived(data.piles.reduce((sum, pile) => sum + pile.answers.length, 0));
  const addressOf = (next: string, all = data.all) =>
    `${at}/by-part?page=${data.page}&part=${encodeURIComponent(next)}${all ? '&all' : ''}`;

  const cards: Record<string, PileCard | undefined> = $state({});
  const places: Record<string, HTMLElement | undefined> = $state({});
  let current: string | null = $state(null);

  const give = ({ key, answer, answers: some }: Shown, points: string | null, reason: string) => {
    const { part } = data;
    return moves.score(
      part ?? '',
      () => (data.part === part ? piles.find((one) => one.key === key)?.answers : null) ?? some,
      points === null ? null : { points, reason },
      `${points === null ? 'As the key says' : writePoints(points)}: “${answer.slice(0, 40)}”, ${counted(some.length, 'copy', 'copies')}`,
    );
  };
  const comment = (some: readonly PiledAnswer[], text: string) =>
    moves.comment(data.part ?? '', some, text, data.feedbackWaits);
  const apart = (copy: string, apart: boolean) => {
    const { part } = data;
    void moves.run(async () => {
      await moves.send({ move: 'apart', copy, part, apart });
    });
  };

  interface Accepting {
    asked: { page: string | null; part: string | null; answers: string[] };
    says: string;
    changes: CheckChange[];
  }
  let lookedAt = $state.raw<Accepting | null>(null);
  /** Whoever goes on to another part has left it. */
  const accepting = $derived(
    lookedAt?.asked.part === data.part && lookedAt?.asked.page === data.page ? lookedAt : null,
  );
  const accepted = $derived(
    data.key?.kind === 'short'
      ? data.key.accepted
      : data.key?.kind === 'number'
        ? (data.key.also ?? [])
        : [],
  );
  const mayAccept = $derived(
    most !== null &&
      data.key !== null &&
      ['short', 'number', 'by hand'].includes(data.key.kind) &&
      (part?.kind === 'short' || part?.kind === 'number'),
  );
  const preview = ({ answer, answers: some }: Shown) => {
    const answers = [...new Set(some.map((one) => one.answer))];
    const asked = { page: data.page, part: data.part, answers };
    void moves.run(async () => {
      const changes = await moves.send<CheckChange[]>({ move: 'preview', ...asked });
      lookedAt = { asked, says: answer, changes };
    });
  };
  const accept = () =>
    void moves.run(async () => {
      if (!accepting) return;
      const { asked, says } = accepting;
      await moves.send({ move: 'accept', ...asked });
      moves.done = `“${says}” counts as right now.`;
      lookedAt = null;
    });

  let worth = $state('');
  async function setWorth(event: SubmitEvent) {
    event.preventDefault();
    const points = readPoints(worth);
    if (points === null) return void (moves.sentence = 'Points are a number such as 2 or 2½.');
    const { part, keyPages } = data;
    await moves.run(async () => {
      for (const page of keyPages)
        await send(`/pages/${page}/keys`, { part, key: { kind: 'by hand', points } }, 'PUT');
    });
  }

  /** How many have how many points. */
  const spread = $derived.by(() => {
    const all = [...data.piles.flatMap((pile) => pile.answers), ...data.blank];
    const points = all.flatMap((one) => one.points ?? []);
    const labels = [...new Set(points)].sort((a, b) => Number(a) - Number(b));
    return { labels, values: labels.map((one) => points.filter((other) => other === one).length) };
  });

  function turn(by: 1 | -1) {
    const next = data.parts[index + by];
    if (next) void goto(addressOf(next.id), { keepFocus: true });
  }
  function move(by: 1 | -1) {
    const at = piles.findIndex(({ key }) => key === current);
    const next = piles[Math.min(piles.length - 1, Math.max(0, at + by))];
    if (next) places[next.key]?.focus();
  }
  function keys(event: KeyboardEvent) {
    if (isWriting(event) || event.ctrlKey || event.metaKey || event.altKey) return;
    const digit = /^Digit(\d)$/.exec(event.code)?.[1];
    const card = current === null ? undefined : cards[current];
    if (digit !== undefined && card) card.give(event.shiftKey ? `${digit}.5` : digit);
    else if (event.key === 'ArrowDown' || event.key === 'ArrowUp')
      move(event.key === 'ArrowDown' ? 1 : -1);
    else if (event.key === 'c' && card) card.say();
    else if (event.key === 'u') void moves.undo();
    else if (event.key === '[' || event.key === ']') turn(event.key === ']' ? 1 : -1);
    else return;
    event.preventDefault();
  }
  const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);
  const reachedOf = (reached: number) => `${Math.round(reached * 100)} of 100 points reached`;
</script>

<svelte:window onkeydown={keys} />
<div class="flex min-h-0 flex-1 max-lg:flex-col max-lg:overflow-auto">
  <nav
    class="flex w-62 shrink-0 flex-col overflow-auto border-r border-rule bg-sheet max-lg:w-full max-lg:border-r-0"
    aria-label="Parts"
  >
    <p class="flex items-center gap-2 px-3 py-2">
      <strong class="flex-1">Part by part</strong>
      <a class="act act-small" href="{at}/marking">Copy by copy</a>
    </p>
    {#if data.pages.length > 1}
      <ul class="px-3 pb-2 text-sm">
        {#each data.pages as page (page.id)}<li>
            <a
              href="{at}/by-part?page={page.id}{data.all ? '&all' : ''}"
              aria-current={page.id === data.page ? 'page' : undefined}
              class={page.id === data.page ? 'font-bold' : ''}>{page.title}</a
            >
          </li>{/each}
      </ul>
    {/if}
    <ol>
      {#each data.parts as one (one.id)}
        <li>
          <a
            href={addressOf(one.id)}
            aria-current={one.id === data.part ? 'page' : undefined}
            class={[
              'grid grid-cols-[1.4rem_1fr] gap-x-2 border-b border-l-3 border-b-rule px-3 py-2 text-ink no-underline',
              one.id === data.part
                ? 'border-l-ice bg-ice-pale'
                : 'border-l-transparent hover:bg-paper',
            ]}
          >
            <strong>{one.number}</strong>
            <span class="line-clamp-2 leading-tight">{one.label}</span>
            {#if one.reached !== null}<span
                class="col-start-2 mt-1.5 h-1 rounded-full bg-rule"
                aria-hidden="true"
                ><span
                  class="block h-1 rounded-full bg-spruce"
                  style:width="{Math.round(one.reached * 100)}%"
                ></span></span
              >{/if}
            <span class="col-start-2 mt-1 text-sm text-ink2">
              {[
                one.most === null
                  ? 'no points'
                  : one.reached === null
                    ? ''
                    : reachedOf(one.reached),
                one.left > 0 ? `${one.left} to mark` : '',
              ]
                .filter(Boolean)
                .join(' · ') || 'nothing scored yet'}
            </span>
          </a>
        </li>
      {/each}
    </ol>
    <div class="flex flex-col gap-2 px-3 py-3 text-sm">
      <OnOff says="Show names" bind:on={named} />
      {#if data.classes.length > 1 && data.part}<a
          class="underline"
          href={addressOf(data.part, !data.all)}
          >{data.all
            ? `Only ${data.klass.name}`
            : `All of ${data.classes.map(({ name }) => name).join(', ')}`}</a
        >{/if}
    </div>
  </nav>
  <main class="min-w-0 flex-1 overflow-auto px-5 py-3 max-lg:overflow-visible">
    {#if part}
      <div class="flex items-baseline gap-4">
        <h1 class="min-w-0 flex-1 text-lg font-bold">{part.number} · {part.label}</h1>
        <p class="shrink-0 text-sm text-ink2">
          {counted(answers, 'answer')} in {counted(data.piles.length, 'pile')}{data.blank.length > 0
            ? ` · ${data.blank.length} not answered`
            : ''}
        </p>
      </div>
      {#if moves.sentence}<p class="trouble mt-2" role="alert">{moves.sentence}</p>{/if}
      {#if moves.done || moves.canUndo}<p
          class="mt-2 flex items-center gap-3 text-sm text-ink2"
          role="status"
        >
          <span class="min-w-0 flex-1 truncate">{moves.done}</span>
          {#if moves.canUndo}<button
              type="button"
              class="act act-small"
              disabled={moves.sending}
              onclick={() => void moves.undo()}>Undo</button
            >{/if}
        </p>{/if}
      <BehindNotice copies={data.behind} {named} changed={() => readAgain('uncia:piles')} />
      {#if data.byRubric}<p class="notice mt-3">
          This assignment is scored by its rubric, copy by copy. Here you read the answers and
          comment on them.
        </p>{:else if part.most === null}<form
          class="notice mt-3 flex items-end gap-2"
          onsubmit={setWorth}
        >
          <label class="w-24"
            ><span class="label">Points</span><input
              class="field"
              inputmode="decimal"
              bind:value={worth}
            /></label
          >
          <button class="act">Set</button>
          <p class="flex-1 pb-1 text-sm">This part counts no points yet. What does it count for?</p>
        </form>{/if}
      {#each piles as pile (`${data.part} ${pile.key}`)}
        <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
        <section
          class={[
            'mt-2.5 rounded-lg border bg-sheet focus-visible:outline-2 focus-visible:outline-ice',
            current === pile.key ? 'border-ice' : 'border-rule',
          ]}
          tabindex="0"
          aria-label="{counted(pile.answers.length, 'copy', 'copies')}: {pile.answer.slice(0, 80)}"
          bind:this={places[pile.key]}
          onfocusin={() => (current = pile.key)}
        >
          <PileCard
            bind:this={cards[pile.key]}
            {pile}
            klass={data.klass.id}
            about="{data.assignment} {data.part} {pile.key}"
            {most}
            {named}
            work={data.title}
            mayAccept={mayAccept && pile.key !== 'blank'}
            score={(points, reason) => give(pile, points, reason)}
            comment={(text) => comment(pile.answers, text)}
            {apart}
            accept={() => preview(pile)}
          />
        </section>
      {/each}
      <p class="mt-3 text-sm text-ink2">
        ↑ and ↓ go from pile to pile; {most === null
          ? ''
          : 'number keys give points, Shift half a point more; '}c comments, u undoes.
      </p>
    {:else}<p class="text-ink2">
        {data.page === null
          ? 'Nothing has been handed in yet.'
          : 'This page asks for nothing: it has no parts.'}
      </p>{/if}
  </main>
  <aside
    class="w-80 shrink-0 overflow-auto border-l border-rule bg-sheet px-4 py-3 max-lg:w-full max-lg:border-t max-lg:border-l-0"
    aria-label="This part"
  >
    {#if data.key && data.key.kind !== 'by hand'}
      <h2 class="font-bold">What counts as right</h2>
      <ul class="mt-2 flex flex-col items-start gap-2">
        {#if data.key.kind === 'number'}<li class="rounded-full border border-rule px-3 py-0.5">
            {data.key.value}
            {data.key.unit}{Number(data.key.tolerance) > 0 ? ` ± ${data.key.tolerance}` : ''}
          </li>{/if}
        {#each accepted as one (one)}<li
            class="max-w-full truncate rounded-full border border-rule px-3 py-0.5"
          >
            {one}
          </li>{/each}
        {#if data.key.kind === 'choice' || data.key.kind === 'pieces'}<li class="text-sm text-ink2">
            {data.key.kind === 'choice'
              ? counted(data.key.right.length, 'choice')
              : counted(
                  Object.keys(data.key.places).length,
                  'piece in its place',
                  'pieces in their places',
                )}
          </li>{/if}
      </ul>
      {#if data.key.kind === 'short' && data.key.othersByHand}<p class="mt-1 text-sm text-ink2">
          Other answers are scored by hand.
        </p>{/if}
    {/if}
    {#if data.keyPages[0]}<p class="mt-2 text-sm">
        <a class="underline" href="/editor/{data.keyPages[0]}">Change the key in the original</a>
      </p>{/if}
    {#if accepting}<WhoGains
        says="Accepting “{accepting.says}”"
        changes={accepting.changes}
        {named}
        sending={moves.sending}
        yes={accept}
        no={() => (lookedAt = null)}
        deed="Accept it"
      />{/if}
    {#if spread.labels.length > 0}
      <h2 class="mt-5 font-bold">How {data.all ? 'they' : 'the class'} did</h2>
      <Bars
        labels={spread.labels.map(writePoints)}
        series={[{ label: 'copies', color: '--spruce', values: spread.values }]}
        along="points"
        says="How many have how many points: {spread.labels
          .map((one, i) => `${spread.values[i]} have ${writePoints(one)}`)
          .join(', ')}"
      />
    {/if}
    {#if data.figures}<p class="mt-2 text-sm text-ink2">
        {Math.round(data.figures.facility * 100)} of 100 points reached in {counted(
          data.figures.of,
          'copy',
          'copies',
        )}.
        {capital(sayDiscrimination(data.figures))}{data.figures.discrimination === null
          ? ''
          : ` (${data.figures.discrimination.toFixed(2).replace('-', '−')})`}.
        <a class="underline" href="{at}/parts">What these numbers say</a>
      </p>{/if}
    <div class="mt-5 flex items-center gap-2 border-t border-rule pt-4">
      <button class="act" disabled={index <= 0} onclick={() => turn(-1)} aria-label="Previous part"
        >‹ {data.parts[index - 1]?.number ?? ''}</button
      >
      {#if data.parts[index + 1]}<button class="act act-main" onclick={() => turn(1)}
          >Part {data.parts[index + 1]?.number} ›</button
        >{/if}
      {#if part && part.left > 0}<span class="text-sm text-ink2"
          >{counted(part.left, 'answer')} left here</span
        >{/if}
    </div>
  </aside>
</div>
