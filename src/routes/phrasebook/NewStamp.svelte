<script lang="ts">
  import { colourOf, strokePath } from '$core/page/drawing-svg';
  import type { InkPoint } from '$core/page/drawing';
  import { LONGEST_WORD, STAMP_SIDE } from '$core/stamps/stamp';
  import FileField from '$ui/fields/FileField.svelte';
  import { sizeIn } from './size-in';

  interface Props {
    /** @param picture a PNG, in base 64 */
    add: (word: string, picture: string) => Promise<void>;
  }
  let { add }: Props = $props();

  const WIDTH = 9;
  let word = $state('');
  let strokes: InkPoint[][] = $state.raw([]);
  let line: InkPoint[] | null = $state.raw<InkPoint[] | null>(null);
  let chosen: ImageBitmap | null = $state.raw<ImageBitmap | null>(null);
  let sentence = $state('');
  let sending = $state(false);
  const paths = $derived(
    [...strokes, ...(line ? [line] : [])].map((one) => strokePath(one, WIDTH)),
  );
  const isReady = $derived(word.trim() !== '' && (chosen !== null || strokes.length > 0));

  function pointOf(event: PointerEvent & { currentTarget: Element }): InkPoint {
    const box = event.currentTarget.getBoundingClientRect();
    return {
      x: ((event.clientX - box.left) / box.width) * STAMP_SIDE,
      y: ((event.clientY - box.top) / box.height) * STAMP_SIDE,
      pressure: event.pointerType === 'pen' ? event.pressure : 0.5,
    };
  }
  function down(event: PointerEvent & { currentTarget: Element }) {
    event.currentTarget.setPointerCapture(event.pointerId);
    chosen = null;
    line = [pointOf(event)];
  }
  function up() {
    if (line) strokes = [...strokes, line];
    line = null;
  }
  async function choose(files: readonly File[]) {
    const [file] = files;
    if (!file) return;
    sentence = '';
    chosen = await createImageBitmap(file).catch(() => null);
    if (!chosen) sentence = 'This file is no picture that this browser can read.';
    else strokes = [];
  }

  /** What was drawn, or chosen, as it is kept. */
  async function paint(): Promise<string> {
    const canvas = new OffscreenCanvas(STAMP_SIDE, STAMP_SIDE);
    const ink = canvas.getContext('2d');
    if (!ink) throw new Error('This browser cannot draw stamps.');
    if (chosen) {
      const { x, y, width, height } = sizeIn(chosen, STAMP_SIDE);
      ink.drawImage(chosen, x, y, width, height);
    }
    ink.fillStyle = colourOf('dark');
    for (const path of paths) ink.fill(new Path2D(path));
    const bytes = new Uint8Array(await (await canvas.convertToBlob()).arrayBuffer());
    return btoa(Array.from(bytes, (byte) => String.fromCharCode(byte)).join(''));
  }
  async function save(event: SubmitEvent) {
    event.preventDefault();
    if (!isReady || sending) return;
    sending = true;
    try {
      await add(word.trim(), await paint());
      [word, strokes, chosen, sentence] = ['', [], null, ''];
    } catch (error) {
      sentence = error instanceof Error ? error.message : '';
    }
    sending = false;
  }
  /** Shows what was chosen. */
  const show = (picture: ImageBitmap) => (canvas: HTMLCanvasElement) => {
    const { x, y, width, height } = sizeIn(picture, STAMP_SIDE);
    canvas.getContext('2d')?.drawImage(picture, x, y, width, height);
  };
</script>

<form class="mt-4 flex flex-wrap items-start gap-4" onsubmit={save} aria-label="New stamp">
  <div>
    <p class="label" id="draw-stamp">Draw it here</p>
    <div class="relative h-32 w-32 rounded-lg border border-rule bg-white">
      {#if chosen}{#key chosen}<canvas
            class="absolute inset-0 h-full w-full"
            width={STAMP_SIDE}
            height={STAMP_SIDE}
            {@attach show(chosen)}
          ></canvas>{/key}{/if}
      <svg
        class="absolute inset-0 h-full w-full cursor-crosshair touch-none"
        viewBox="0 0 {STAMP_SIDE} {STAMP_SIDE}"
        role="img"
        aria-labelledby="draw-stamp"
        onpointerdown={down}
        onpointermove={(event) => line && (line = [...line, pointOf(event)])}
        onpointerup={up}
        onpointercancel={up}
      >
        {#each paths as path, index (index)}<path d={path} fill={colourOf('dark')} />{/each}
      </svg>
    </div>
  </div>
  <div class="flex flex-col gap-2">
    <FileField
      label="Or choose a picture"
      accept={['.png', '.jpg', '.jpeg', '.webp']}
      onfiles={choose}
    />
    <label
      ><span class="label">Its word</span><input
        class="field w-60"
        maxlength={LONGEST_WORD}
        bind:value={word}
      /></label
    >
    {#if sentence}<p class="trouble" role="alert">{sentence}</p>{/if}
    <div class="flex gap-2">
      <button class="act act-main" disabled={!isReady || sending}>Add stamp</button>
      {#if strokes.length > 0}<button
          type="button"
          class="act"
          onclick={() => (strokes = strokes.slice(0, -1))}>Undo the last line</button
        >{/if}
    </div>
  </div>
</form>
