<script lang="ts">
  import { Popover } from '@skeletonlabs/skeleton-svelte';
  import type { Snippet } from 'svelte';

  interface Props {
    /** What a screen reader hears of the button. */
    label: string;
    button: Snippet;
    children: Snippet;
    look?: string;
    /** Down to the left of its button's end, or up from its beginning, at the foot of a view. */
    opens?: 'down' | 'up';
  }
  let {
    label,
    button,
    children,
    look = 'act act-small act-plain',
    opens = 'down',
  }: Props = $props();
  let open = $state(false);

  /** A form's button is needed until the form is sent. */
  function onclick({ target }: MouseEvent) {
    const chosen = target instanceof Element ? target.closest('a, button') : null;
    if (chosen && !chosen.closest('form')) open = false;
  }
</script>

<Popover
  {open}
  onOpenChange={(change) => (open = change.open)}
  positioning={{ placement: opens === 'down' ? 'bottom-end' : 'top-start', gutter: 4 }}
>
  <Popover.Trigger class={look} aria-label={label}>{@render button()}</Popover.Trigger>
  {#if open}
    <Popover.Positioner>
      <Popover.Content
        aria-label={label}
        class="z-30 flex w-60 flex-col rounded-lg border border-rule bg-sheet p-1.5 shadow-sm [&_a]:no-underline [&_a,&_button]:w-full [&_a,&_button]:rounded-md [&_a,&_button]:px-3 [&_a,&_button]:py-1.5 [&_a,&_button]:text-left [&_a,&_button]:text-ink [&_a:hover,&_button:hover]:bg-paper"
        {onclick}
        onsubmit={() => (open = false)}
      >
        {@render children()}
      </Popover.Content>
    </Popover.Positioner>
  {/if}
</Popover>
