<script lang="ts">
  import type { Node } from 'prosemirror-model';
  import { untrack } from 'svelte';
  import { readDrawing, readPlace, spotsOf } from '$core/page/drawing';
  import {
    colourOf,
    fullHeight,
    groundOf,
    pointOf,
    shapeOf,
    strokePath,
    type Shape,
  } from '$core/page/drawing-svg';
  import { DrawingHand } from './drawing-hand.svelte';
  import type { DrawingShown } from './drawing-shown.svelte';
  import DrawingTools from './DrawingTools.svelte';

  interface Props {
    shown: DrawingShown;
  }
  let { shown }: Props = $props();
  const hand = untrack(() => new DrawingHand(shown));

  const { node, mode } = $derived(shown);
  const isOpen = $derived(mode !== 'read');
  const { viewBox, ground } = $derived(groundOf(node, (file) => `/files/${file}`));
  const { detail } = $derived(readDrawing(node));

  const numberOf = (id: string) => spotsOf(node).findIndex(({ attrs }) => attrs.id === id) + 1;
  function sayChild({ type, attrs }: Node): string {
    if (type.name === 'label') return `Label: ${attrs.text}`;
    if (type.name === 'spot') return `Place ${numberOf(attrs.id)}`;
    const number = numberOf(attrs.place.slice(1));
    const where = number > 0 ? `on place ${number}` : attrs.place ? 'on the drawing' : 'not placed';
    return `${attrs.text}, ${where}`;
  }
  function movedBy(child: Node): string | undefined {
    const { moving } = hand;
    if (moving?.id !== child.attrs.id || !moving) return undefined;
    const from = child.type.name === 'piece' ? pointOf(node, child) : readPlace(child.attrs.at);
    return `translate(${moving.to.x - (from?.x ?? 0)} ${moving.to.y - (from?.y ?? 0)})`;
  }
  /** What can be handled by itself is a button. */
  const handled = (child: Node) =>
    hand.handles(child)
      ? {
          role: 'button',
          tabindex: 0,
          'aria-label': sayChild(child),
          onkeydown: (event: KeyboardEvent) => {
            if (event.ctrlKey || event.metaKey || !hand.key(event.key, child)) return;
            event.preventDefault();
            event.stopPropagation();
          },
        }
      : {};
  function keyInside(event: KeyboardEvent) {
    if (event.target instanceof HTMLInputElement) return;
    if (event.key === 'Escape') hand.byFinger = false;
    // Undo is the page's.
    if ((event.ctrlKey || event.metaKey) && shown.passOn(event)) event.preventDefault();
  }
  const focusHere = (input: HTMLInputElement) => {
    input.focus();
    input.select();
  };
</script>

{#snippet draw({ name, attrs, inside }: Shape)}
  <svelte:element this={name} xmlns="http://www.w3.org/2000/svg" {...attrs}
    >{#if typeof inside === 'string'}{inside}{:else}{#each inside as one, index (index)}{@render draw(
          one,
        )}{/each}{/if}</svelte:element
  >
{/snippet}

<!-- svelte-ignore a11y_no_static_element_interactions -->
<div class="drawing" onkeydown={keyInside}>
  {#if isOpen}<DrawingTools {hand} isAuthor={mode === 'author'} {detail} />{/if}
  <div class="overflow-auto rounded-md border border-rule">
    <div class="relative" style:width="{hand.zoom * 100}%">
      <!-- By keys it is done with the things on it. -->
      <svg
        {viewBox}
        class={[
          'block w-full select-none',
          isOpen && `tool-${hand.tool}`,
          (hand.byFinger || hand.hasPen) && 'by-hand',
        ]}
        role={isOpen ? 'group' : 'img'}
        aria-label={[node.attrs.alt || 'Drawing', detail].filter(Boolean).join(': ')}
        onpointerenter={(event) => isOpen && event.pointerType === 'pen' && (hand.hasPen = true)}
        onpointerdown={(event) => hand.down(event)}
        onpointermove={(event) => hand.move(event)}
        onpointerup={(event) => hand.up(event)}
        onpointercancel={() => hand.cancel()}
        onclick={(event) => hand.press(event)}
      >
        {#each ground as one, index (index)}{@render draw(one)}{/each}
        {#each shown.gone as child, index (index)}
          <g class="gone">{@render draw(shapeOf(node, child))}</g>
        {/each}
        {#each node.children as child (child.attrs.id)}
          <g
            class={['thing', shown.marks[child.attrs.id]]}
            data-id={child.attrs.id}
            transform={movedBy(child)}
            {...handled(child)}>{@render draw(shapeOf(node, child))}</g
          >
        {/each}
        {#if hand.live.length > 0}<path
            d={strokePath(hand.live, hand.width)}
            fill={colourOf(hand.ink)}
          />{/if}
      </svg>
      {#if hand.writing}
        <input
          class="field absolute w-48 py-1"
          style:left="{hand.writing.at.x / 10}%"
          style:top="{(hand.writing.at.y / fullHeight(node)) * 100}%"
          aria-label="Text of the label"
          maxlength="200"
          bind:value={hand.writing.text}
          {@attach focusHere}
          onblur={() => hand.endWriting()}
          onkeydown={(event) => {
            if (event.key === 'Enter') hand.endWriting();
            if (event.key === 'Escape') hand.writing = null;
          }}
        />
      {/if}
    </div>
  </div>
</div>

<style>
  .drawing {
    font-family: 'Atkinson Hyperlegible Next Variable', sans-serif;
  }
  svg {
    touch-action: pan-x pan-y pinch-zoom;
  }
  svg.by-hand {
    touch-action: pinch-zoom;
  }
  .tool-pen,
  .tool-label,
  .tool-spot {
    cursor: crosshair;
  }
  .tool-eraser {
    cursor: cell;
  }
  .thing:global([role='button']) {
    cursor: grab;
  }
  .thing:focus-visible {
    outline: 4px solid var(--ink);
    outline-offset: 2px;
  }
  .thing:global(.came),
  .thing:global(.written) {
    filter: drop-shadow(0 0 6px #1f5f5b);
  }
  .thing:global(.changed-form) {
    filter: drop-shadow(0 0 6px #20303c);
  }
  .gone {
    opacity: 0.5;
  }
  .gone :global(path) {
    fill: none;
    stroke: #b1482c;
    stroke-width: 3px;
    stroke-dasharray: 10 8;
  }
</style>
