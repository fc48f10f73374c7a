<script lang="ts">
  import { tick } from 'svelte';
  import { goto } from '$app/navigation';
  import type { GradeCell } from '$core/grades/gradebook';
  import { morePointsThanAsked, readPoints, writePoints } from '$core/marking/points';
  import { send } from '$ui/send';

  interface Props {
    cell: GradeCell;
    most: string;
    /** What the cell is about, for whoever does not see where it stands. */
    label: string;
    /** Missing work counts as zero. */
    zero: boolean;
    /** Where its copy is marked. With a rubric it is scored there alone. */
    marking: string;
    byRubric: boolean;
    /** Whether points are typed here. */
    mayMark: boolean;
    tabStop: boolean;
    focus: () => void;
    /** Goes to a cell beside this one. */
    go: (key: 'ArrowDown' | 'ArrowRight') => void;
    warn: (sentence: string) => void;
    /** Reads the gradebook again. */
    changed: () => Promise<void>;
  }
  let {
    cell,
    most,
    label,
    zero,
    marking,
    byRubric,
    mayMark,
    tabStop,
    focus,
    go,
    warn,
    changed,
  }: Props = $props();

  /** What is typed, and the score that was seen then; null while nothing is. */
  let typed = $state.raw<{ text: string; after: string | null } | null>(null);
  let input: HTMLInputElement | undefined = $state();
  let button: HTMLButtonElement | undefined = $state();
  let sending = $state(false);

  const back = $derived(typeof cell.got === 'object' ? cell.got.points : null);
  const shown = $derived(cell.kept ?? back);
  const says = $derived(
    cell.kept !== null
      ? `${writePoints(cell.kept)} of ${writePoints(most)}, kept back`
      : back !== null && cell.got !== 'excused'
        ? `${writePoints(back)} of ${writePoints(most)}`
        : cell.says === 'missing' && zero
          ? 'missing, counts as zero'
          : cell.says || 'no points yet',
  );

  async function begin(text: string) {
    if (!cell.copy) return;
    if (byRubric || !mayMark) return goto(marking);
    typed = { text, after: cell.copy.score };
    await tick();
    input?.focus();
    if (text === shownText()) input?.select();
  }
  const shownText = () => (shown === null ? '' : writePoints(shown));
  function stop() {
    typed = null;
    void tick().then(() => button?.focus());
  }

  async function save(then: 'ArrowDown' | 'ArrowRight' | null) {
    if (!typed || !cell.copy || sending) return;
    const { text, after } = typed;
    const points = text.trim() === '' ? null : readPoints(text);
    if (text.trim() !== '' && points === null)
      return warn(`“${text}” is no number of points. They are a number such as 6, 6½ or 6.5.`);
    if (text.trim() === shownText()) return done(then);
    sending = true;
    try {
      await send(`/pages/${cell.copy.id}/marking`, { move: 'score', given: { points }, after });
      const over = points === null ? null : morePointsThanAsked(points, most);
      warn(over ? `${label}: ${over}` : '');
      done(then);
    } catch (error) {
      // Whoever saves again has seen what was given meanwhile, though its news is still on the way.
      await changed().catch(() => undefined);
      typed = { text, after: cell.copy.score };
      warn(
        `${label}: ${error instanceof Error ? error.message : ''} What you typed is still here.`,
      );
    } finally {
      sending = false;
    }
    if (typed) void tick().then(() => input?.focus());
  }
  function done(then: 'ArrowDown' | 'ArrowRight' | null) {
    typed = null;
    if (then) void tick().then(() => (button?.focus(), go(then)));
  }
  function onkeydown(event: KeyboardEvent) {
    const next = { Enter: 'ArrowDown', Tab: 'ArrowRight' } as const;
    if (event.key === 'Escape') {
      event.stopPropagation();
      stop();
    } else if (event.key === 'Enter' || (event.key === 'Tab' && !event.shiftKey)) {
      event.preventDefault();
      void save(next[event.key]);
    }
    // The arrows stay in the field.
    if (event.key.startsWith('Arrow')) event.stopPropagation();
  }
  function type(event: KeyboardEvent) {
    if (event.ctrlKey || event.metaKey || event.altKey || !/^[\d.,¼½¾]$/.test(event.key)) return;
    event.preventDefault();
    void begin(event.key);
  }
</script>

{#if typed}
  <input
    class="h-full w-full bg-sheet px-2 text-right outline-2 -outline-offset-2 outline-ice"
    inputmode="decimal"
    aria-label="Points: {label}"
    disabled={sending}
    bind:this={input}
    bind:value={() => typed?.text ?? '', (text) => (typed = { text, after: typed?.after ?? null })}
    {onkeydown}
    onblur={() => save(null)}
  />
{:else}
  <button
    class="flex h-full w-full flex-col items-end justify-center px-2 leading-tight"
    tabindex={tabStop ? 0 : -1}
    aria-label="{label}: {says}{(byRubric || !mayMark) && cell.copy ? '; opens the copy' : ''}"
    bind:this={button}
    onclick={() => begin(shownText())}
    onkeydown={type}
    onfocus={focus}
  >
    {#if cell.got === 'excused'}<span class="text-sm text-ink2">excused</span>
    {:else if shown !== null}
      <span class={cell.kept === null ? '' : 'border-b-2 border-dotted border-ink2 italic'}
        >{writePoints(shown)}</span
      >
    {:else}<span class={['text-sm', cell.says === 'missing' ? 'text-rust' : 'text-ink2']}
        >{cell.says === 'missing' && zero ? 'missing · 0' : cell.says}</span
      >{/if}
  </button>
{/if}
