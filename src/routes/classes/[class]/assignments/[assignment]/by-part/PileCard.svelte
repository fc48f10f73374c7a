<script lang="ts">
  import { tick, untrack } from 'svelte';
  import { counted } from '$core/lists/counted';
  import type { Pile } from '$core/marking/piles';
  import { samePoints, writePoints } from '$core/marking/points';
  import { saidOn } from '$core/marking/said-on-piles';
  import type { PiledAnswer } from '$server/copy/part-piles';
  import CommentBox from '$ui/comments/CommentBox.svelte';
  import CommentText from '$ui/comments/CommentText.svelte';
  import { Draft } from '$ui/draft.svelte';

  interface Props {
    pile: Pile<PiledAnswer>;
    klass: string;
    /** The answers that lie in it, whatever they are called: what is half-typed about them is kept under this name. */
    about: string;
    /** What the part counts for; null where no points are given here. */
    most: string | null;
    named: boolean;
    /** The title of the assignment. */
    work: string;
    mayAccept: boolean;
    score: (points: string | null, reason: string) => Promise<boolean>;
    comment: (text: string) => Promise<boolean>;
    apart: (copy: string, apart: boolean) => void;
    accept: () => void;
  }
  let { pile, klass, about, most, named, work, mayAccept, score, comment, apart, accept }: Props =
    $props();

  const count = $derived(pile.answers.length);
  const isAlone = $derived(pile.key.startsWith('alone '));
  /** What all of them have; null where some have other points, or none have any. */
  const points = $derived.by(() => {
    const [first, ...others] = pile.answers.map((one) => one.points);
    return others.every((one) => one === first) ? (first ?? null) : null;
  });
  const isMixed = $derived(points === null && pile.answers.some((one) => one.points !== null));
  /** Whole points up to what it counts for, that, and what they have. */
  const steps = $derived.by(() => {
    if (most === null) return [];
    const whole = Array.from(
      { length: Math.min(10, Math.floor(Number(most))) + 1 },
      (_, i) => `${i}`,
    );
    return [...new Set([...whole, most, ...(points === null ? [] : [points])])].sort(
      (a, b) => Number(a) - Number(b),
    );
  });

  let open = $state(false);
  const draft = untrack(() => new Draft(`comment on ${about}`));
  let begun = $state(false);
  const saying = $derived(begun || draft.text !== '');
  let field: HTMLTextAreaElement | undefined = $state();
  /** Points that need a reason, because the key says otherwise. */
  let asked: string | null = $state(null);
  let reason = $state('');

  const reasons = $derived([...new Set(pile.answers.flatMap(({ given }) => given?.reason || []))]);

  export function give(next: string) {
    if (most === null || Number(next) > Number(most)) return;
    if (pile.answers.some(({ byKey }) => byKey !== null && !samePoints(byKey, next))) {
      asked = next;
      reason = reasons[0] ?? '';
      return;
    }
    void score(next, '');
  }
  export function say() {
    begun = true;
    // Before the next key, which gives points elsewhere.
    void tick().then(() => field?.focus());
  }
  let sending = false;
  async function sendComment() {
    if (!draft.text.trim() || sending) return;
    sending = true;
    const words = draft.take();
    if (await comment(words)) begun = false;
    else draft.giveBack(words);
    sending = false;
  }
  /** Whose students have it, and when, of what was said on some of its answers. */
  const toWhom = ({ answers, keptBack }: ReturnType<typeof saidOn>[number]) =>
    [
      count > 1 && `to ${answers === count ? 'all' : `${answers} of`} ${count}`,
      keptBack && 'when handed back',
    ]
      .flatMap((words) => (words ? ` · ${words}` : []))
      .join('');
  const focused = (node: HTMLElement) => node.focus();
</script>

<div class="grid grid-cols-[3.5rem_1fr_auto] items-center">
  <p class="self-stretch border-r border-rule py-3 text-center text-2xl font-bold tabular-nums">
    {count}<span class="sr-only"> {count === 1 ? 'copy' : 'copies'}</span>
  </p>
  <div class="min-w-0 px-4 py-3">
    <p class={['font-page text-lg whitespace-pre-line', !open && 'line-clamp-6']}>
      {pile.answer || (pile.answers[0]?.chosen.length ? 'What was placed on the drawing' : '…')}
    </p>
    <p class="text-sm text-ink2">
      {#if count > 1}in {count} copies, {pile.nearly
          ? 'letter for letter or nearly'
          : 'letter for letter'} ·
        <button type="button" class="underline" aria-expanded={open} onclick={() => (open = !open)}
          >{open ? 'fewer' : 'take one out'}</button
        >
      {:else}
        {#if named}{pile.answers[0]?.names.join(', ')}, {pile.answers[0]?.class} ·{/if}
        <a class="underline" href="/classes/{klass}/marking/{pile.answers[0]?.copy}">open copy</a>
        {#if isAlone}· <button
            type="button"
            class="underline"
            onclick={() => apart(pile.answers[0]?.copy ?? '', false)}>put back into its pile</button
          >{/if}
      {/if}
      {#if mayAccept && pile.answers.some(({ byKey }) => byKey === null || !samePoints(byKey, most ?? '0'))}·
        <button type="button" class="underline" onclick={accept}>accept as right</button>{/if}
      · <button type="button" class="underline" onclick={say}>comment</button>
    </p>
    {#each reasons as one (one)}<p class="mt-1 border-l-3 border-ice pl-2 text-sm">{one}</p>{/each}
    {#each saidOn(pile.answers) as one (`${one.keptBack} ${one.text}`)}<p
        class="mt-1 border-l-3 border-ice pl-2 text-sm break-words"
      >
        “<CommentText text={one.text} />”<span class="text-ink2">{toWhom(one)}</span>
      </p>{/each}
    {#if open && count > 1}
      <ul class="mt-2 border-t border-rule text-sm">
        {#each pile.answers as one (one.copy)}
          <li class="flex items-baseline gap-3 border-b border-rule py-1">
            <span class="min-w-0 flex-1 truncate" title={one.answer}>{one.answer}</span>
            {#if named}<span class="text-ink2">{one.names.join(', ')}, {one.class}</span>{/if}
            <span class="w-8 text-right">{one.points === null ? '–' : writePoints(one.points)}</span
            >
            <a class="underline" href="/classes/{klass}/marking/{one.copy}">open</a>
            <button type="button" class="underline" onclick={() => apart(one.copy, true)}
              >take out</button
            >
          </li>
        {/each}
      </ul>
    {/if}
  </div>
  <div class="flex flex-wrap justify-end gap-1.5 py-3 pr-4" role="group" aria-label="Points">
    {#each steps as step (step)}
      <button
        type="button"
        class={[
          'act act-small min-w-8 px-2 font-bold',
          points !== null && samePoints(points, step) && 'act-main',
        ]}
        aria-pressed={points !== null && samePoints(points, step)}
        onclick={() => give(step)}>{writePoints(step)}</button
      >
    {/each}
    {#if most !== null && isMixed}<span class="basis-full text-right text-sm text-ink2"
        >not all the same</span
      >{/if}
    {#if most !== null && pile.answers.some(({ given, byKey, points: own }) => given && byKey !== null && byKey !== own)}<button
        type="button"
        class="act act-small act-plain"
        onclick={() => void score(null, '')}>as the key says</button
      >{/if}
  </div>
</div>
{#if asked !== null}
  <form
    class="flex items-end gap-2 border-t border-rule px-4 py-3"
    onsubmit={async (event) => {
      event.preventDefault();
      if (asked !== null && reason.trim() && (await score(asked, reason.trim()))) asked = null;
    }}
  >
    <label class="flex-1"
      ><span class="label"
        >Why {writePoints(asked)}, where the key gives other points; their students read it</span
      ><input
        class="field"
        maxlength="1000"
        required
        bind:value={reason}
        {@attach focused}
      /></label
    >
    <button class="act act-main">Save</button>
    <button type="button" class="act" onclick={() => (asked = null)}>Cancel</button>
  </form>
{/if}
{#if saying}
  <form
    class="border-t border-rule px-4 py-3"
    onfocusin={() => (begun = true)}
    onsubmit={(event) => {
      event.preventDefault();
      void sendComment();
    }}
  >
    <label class="label" for="saying-{pile.key}"
      >{count === 1
        ? 'On this answer'
        : `On this answer in each of ${counted(count, 'copy', 'copies')}`}</label
    >
    <CommentBox
      id="saying-{pile.key}"
      blanks={{ name: '', work, words: '' }}
      submit={() => void sendComment()}
      bind:text={draft.text}
      bind:field
    />
    <div class="mt-1 flex gap-2">
      <button class="act act-small act-main" disabled={!draft.text.trim()}>Add comment</button>
      <button
        type="button"
        class="act act-small"
        onclick={() => {
          draft.text = '';
          begun = false;
        }}>Cancel</button
      >
    </div>
  </form>
{/if}
