<script lang="ts">
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
  let root: HTMLElement | undefined = $state();

  /** A form's button is needed until the form is sent. */
  function onclick({ target }: MouseEvent) {
    const chosen = target instanceof Element ? target.closest('a, button') : null;
    if (chosen && !chosen.closest('form')) open = false;
  }
  function onkeydown(event: KeyboardEvent) {
    if (event.key !== 'Escape' || !open) return;
    open = false;
    root?.querySelector('button')?.focus();
  }
</script>

<svelte:window
  onclick={(event) =>
    event.target instanceof Node && !root?.contains(event.target) && (open = false)}
  {onkeydown}
/>
<div class="relative" bind:this={root}>
  <button
    class={look}
    aria-haspopup="true"
    aria-expanded={open}
    aria-label={label}
    onclick={() => (open = !open)}>{@render button()}</button
  >
  {#if open}
    <!-- svelte-ignore a11y_click_events_have_key_events, a11y_no_static_element_interactions (closes behind its buttons) -->
    <div
      class="absolute z-30 flex w-60 {opens === 'down'
        ? 'right-0 mt-1'
        : 'bottom-full left-0 mb-1'} flex-col rounded-lg border border-rule bg-sheet p-1.5 shadow-sm [&_a]:no-underline [&_a,&_button]:w-full [&_a,&_button]:rounded-md [&_a,&_button]:px-3 [&_a,&_button]:py-1.5 [&_a,&_button]:text-left [&_a,&_button]:text-ink [&_a:hover,&_button:hover]:bg-paper"
      {onclick}
      onsubmit={() => (open = false)}
    >
      {@render children()}
    </div>
  {/if}
</div>
