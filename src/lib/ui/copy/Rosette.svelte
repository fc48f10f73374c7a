<script lang="ts">
  import { writePoints } from '$core/marking/points';
  import type { CopyFlags, CopyState } from '$core/copy/state';

  interface Props {
    /** Which parts are done: "101". */
    mask: string;
    state: CopyState;
    flags?: Partial<CopyFlags>;
    points?: string | null;
    /** In pixels. */
    size?: number;
    /** For a screen reader, where no words stand beside it. */
    label?: string;
    /** Whether a number that is too long for its ring stands beside it, or is said elsewhere. */
    beside?: boolean;
    /** A copy that should be there and is not, or has lost its work. */
    gap?: boolean;
  }
  let {
    mask,
    state,
    flags = {},
    points = null,
    size = 30,
    label,
    beside = true,
    gap = false,
  }: Props = $props();

  const RADIUS = 12;
  const arcs = $derived.by(() => {
    const count = Math.max(mask.length, 1);
    const gap = count === 1 ? 0 : Math.min(0.28, 1.6 / count);
    return Array.from({ length: count }, (_, i) => {
      const from = ((i + gap / 2) / count) * 2 * Math.PI - Math.PI / 2;
      const to =
        ((i + 1 - gap / 2) / count) * 2 * Math.PI - Math.PI / 2 - (count === 1 ? 0.001 : 0);
      const point = (angle: number) =>
        `${(16 + RADIUS * Math.cos(angle)).toFixed(2)} ${(16 + RADIUS * Math.sin(angle)).toFixed(2)}`;
      const large = to - from > Math.PI ? 1 : 0;
      return {
        d: `M${point(from)}A${RADIUS} ${RADIUS} 0 ${large} 1 ${point(to)}`,
        done: mask[i] === '1',
      };
    });
  });
  const number = $derived(
    points !== null && (state === 'marked' || state === 'handed back') ? writePoints(points) : '',
  );
  const fontSize = $derived(number.length > 3 ? 8 : number.length > 2 ? 9.5 : 12);
  /** A number that would be smaller than this, in pixels, stands beside its ring. */
  const READABLE = 9;
  const fits = $derived((fontSize * size) / 32 >= READABLE);
</script>

<svg
  viewBox="0 0 32 32"
  width={size}
  height={size}
  class="shrink-0 overflow-visible"
  role={label ? 'img' : undefined}
  aria-label={label}
  aria-hidden={label ? undefined : 'true'}
>
  {#if gap}
    <circle
      cx="16"
      cy="16"
      r={RADIUS}
      fill="none"
      stroke="var(--rust)"
      stroke-width="2.4"
      stroke-dasharray="15.9 2.95"
      stroke-dashoffset="6.5"
    />
    <text
      x="16"
      y="16.5"
      text-anchor="middle"
      dominant-baseline="central"
      fill="var(--rust)"
      font-weight="700"
      font-size="14">?</text
    >
  {:else if state === 'unopened'}
    <circle
      cx="16"
      cy="16"
      r={RADIUS}
      fill="none"
      stroke="var(--quiet)"
      stroke-width="1.8"
      stroke-dasharray="0.1 3.67"
      stroke-linecap="round"
    />
  {:else}
    {#each arcs as arc, index (index)}
      <path
        d={arc.d}
        fill="none"
        stroke-width="4"
        stroke={arc.done ? 'var(--spruce)' : 'color-mix(in oklab, var(--quiet) 55%, var(--sheet))'}
      />
    {/each}
  {/if}
  {#if state === 'handed back' || state === 'revising'}
    <circle cx="16" cy="16" r="15.4" fill="none" stroke="var(--ink)" stroke-width="1" />
  {/if}
  {#if !gap && number && fits}
    <text
      x="16"
      y="16"
      text-anchor="middle"
      dominant-baseline="central"
      fill="var(--ink)"
      font-weight="700"
      font-size={fontSize}>{number}</text
    >
  {:else if !gap && !number && (state === 'handed in' || state === 'marked' || state === 'handed back')}
    <circle cx="16" cy="16" r="6.5" fill="var(--ink)" />
  {:else if !gap && state === 'attached'}
    <path d="M12.5 19.5L19.5 12.5" stroke="var(--lamp)" stroke-width="2.6" stroke-linecap="round" />
  {/if}
  {#if flags.unread}
    <circle cx="27.5" cy="4.5" r="4" fill="var(--lamp)" stroke="var(--sheet)" stroke-width="1.2" />
  {/if}
  {#if flags.now}
    <circle cx="27.5" cy="27.5" r="4" fill="var(--ice)" stroke="var(--sheet)" stroke-width="1.2" />
  {/if}
  {#if flags.late || flags.overdue}
    <path d="M1 29.5H9" stroke="var(--rust)" stroke-width="2.6" stroke-linecap="round" />
  {/if}
</svg>
{#if number && !fits && beside}<span class="text-xs font-bold" aria-hidden="true">{number}</span
  >{/if}
