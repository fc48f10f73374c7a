<script lang="ts">
  import type { PDFDocumentProxy } from 'pdfjs-dist';
  import { drawPage } from './draw-page';

  interface Props {
    pdf: PDFDocumentProxy;
    /** From 1. */
    number: number;
    /** In pixels of the view. */
    width: number;
    /** What it is called, for those who do not see it. */
    label: string;
    /** Its words can be selected. */
    words?: boolean;
  }
  /** One page of a PDF document, drawn once it comes into sight. */
  let { pdf, number, width, label, words = false }: Props = $props();

  let box: HTMLElement | undefined = $state();
  let canvas: HTMLCanvasElement | undefined = $state();
  let layer: HTMLElement | undefined = $state();
  let isNear = $state(false);
  let height = $state(0);
  let trouble = $state('');

  $effect(() => {
    if (!box) return;
    const sight = new IntersectionObserver(
      ([seen]) => {
        if (!seen?.isIntersecting) return;
        isNear = true;
        sight.disconnect();
      },
      { rootMargin: '400px' },
    );
    sight.observe(box);
    return () => sight.disconnect();
  });
  $effect(() => {
    if (!isNear || !canvas) return;
    return drawPage(
      pdf,
      { canvas, words: layer ?? null, number, width, sized: (high) => (height = high) },
      () => (trouble = 'This page cannot be shown.'),
    );
  });
</script>

<div
  bind:this={box}
  class="relative border border-rule bg-white"
  role={words ? 'group' : 'img'}
  aria-label={label}
  style:width="{width}px"
  style:min-height="{height || width * 1.3}px"
>
  <canvas
    bind:this={canvas}
    class="block"
    style:width="{width}px"
    style:height={height ? `${height}px` : undefined}
    aria-hidden="true"
  ></canvas>
  {#if words}<div bind:this={layer} class="pdf-words" style:height="{height}px"></div>{/if}
  {#if trouble}<p class="trouble absolute inset-x-2 top-2" role="alert">{trouble}</p>{/if}
</div>

<style>
  /* The words lie unseen over their picture, where they are selected and heard. */
  .pdf-words {
    position: absolute;
    inset: 0;
    overflow: clip;
    line-height: 1;
    text-align: initial;
    text-size-adjust: none;
    forced-color-adjust: none;
    transform-origin: 0 0;
    z-index: 0;
  }
  .pdf-words :global(span),
  .pdf-words :global(br) {
    color: transparent;
    position: absolute;
    white-space: pre;
    cursor: text;
    transform-origin: 0% 0%;
  }
  .pdf-words :global(.markedContent) {
    top: 0;
    height: 0;
  }
  .pdf-words :global(::selection) {
    background: color-mix(in srgb, var(--color-ice) 30%, transparent);
  }
</style>
