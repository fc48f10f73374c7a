<script lang="ts">
  import type { CopyFlags, CopyState } from '$core/copy/state';
  import Rosette from '$ui/copy/Rosette.svelte';
  import type { CellWords } from './cell-words';

  interface Props {
    copy: {
      mask: string;
      state: CopyState;
      flags: Partial<CopyFlags>;
      points: string | null;
    };
    words: CellWords;
    /** A copy that should be there and is not, or has lost its work. */
    gap?: boolean;
    /** Of a column that is finished: its rosette alone. */
    folded?: boolean;
    chosen: boolean;
    tabStop: boolean;
    choose: () => void;
    /** It has the focus now: by keys, or by a press. */
    focus: (byKeys: boolean) => void;
  }
  let {
    copy,
    words,
    gap = false,
    folded = false,
    chosen,
    tabStop,
    choose,
    focus,
  }: Props = $props();
</script>

<button
  class={[
    'flex h-full w-full items-center gap-2 px-2 text-left',
    folded && 'justify-center',
    chosen && 'bg-ice-pale outline-2 -outline-offset-2 outline-ice',
  ]}
  tabindex={tabStop ? 0 : -1}
  aria-pressed={chosen}
  aria-label={words.label}
  onclick={choose}
  onfocus={(event) => focus(event.currentTarget.matches(':focus-visible'))}
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
  {#if !folded}<span class="leading-tight">
      <span
        class={[
          'block text-sm',
          copy.flags.unread && 'font-bold',
          gap && 'text-rust',
          copy.state === 'unopened' && 'text-ink2',
        ]}>{words.first}</span
      >
      <span class="block text-xs whitespace-nowrap text-ink2">{words.second}</span>
    </span>{/if}
</button>
