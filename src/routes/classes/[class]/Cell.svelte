<script lang="ts">
  import type { CopyFlags, CopyState } from '$core/copy/state';
  import Rosette from '$ui/copy/Rosette.svelte';

  interface Props {
    copy: {
      mask: string;
      state: CopyState;
      flags: Partial<CopyFlags>;
      points: string | null;
      says: string;
    };
    /** A copy that should be there and is not, or has lost its work. */
    gap?: boolean;
    /** All that the cell says, for whoever does not see its marks. */
    label: string;
    second: string;
    chosen: boolean;
    tabStop: boolean;
    choose: () => void;
    focus: () => void;
  }
  let { copy, gap = false, label, second, chosen, tabStop, choose, focus }: Props = $props();
</script>

<button
  class={[
    'flex h-full w-full items-center gap-2 px-2 text-left',
    chosen && 'bg-ice-pale outline-2 -outline-offset-2 outline-ice',
  ]}
  tabindex={tabStop ? 0 : -1}
  aria-pressed={chosen}
  aria-label={label}
  onclick={choose}
  onfocus={focus}
>
  <Rosette
    mask={copy.mask}
    state={copy.state}
    flags={copy.flags}
    points={copy.points}
    size={28}
    beside={false}
    {gap}
  />
  <span class="leading-tight">
    <span
      class={[
        'block text-sm',
        copy.flags.unread && 'font-bold',
        gap && 'text-rust',
        copy.state === 'unopened' && 'text-ink2',
      ]}>{copy.flags.now ? 'writing now' : copy.says}</span
    >
    <span class="block text-xs text-ink2">{second}</span>
  </span>
</button>
