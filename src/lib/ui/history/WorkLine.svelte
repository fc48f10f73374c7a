<script lang="ts">
  import { Slider } from '@skeletonlabs/skeleton-svelte';
  import type { KeptVersion } from '$core/history/kept-versions';
  import type { LineSitting } from '$core/history/work-line';
  import { grouped } from '$core/lists/grouped';

  interface Props {
    line: readonly LineSitting[];
    kept: readonly KeptVersion[];
    /** The line's ends: the first version and the newest. */
    first: number;
    newest: number;
    version: number;
    /** Two versions that are compared, the earlier one first; null where one is shown. */
    ends: [number, number] | null;
    /** What a screen reader hears of a version. */
    says: (version: number) => string;
    nameOf: (person: string) => string;
    onchange: (version: number) => void;
    onends: (ends: [number, number]) => void;
  }
  let {
    line,
    kept,
    first: begins,
    newest,
    version,
    ends,
    says,
    nameOf,
    onchange,
    onends,
  }: Props = $props();

  /** Each writer has a lane; most pages have one. */
  const lanes = $derived([...grouped(line, ({ author }) => author)]);
  const end = $derived(Math.max(begins + 1, newest));
  const share = (at: number) => `${(100 * (at - begins)) / (end - begins)}%`;
  /** Heights go by the root, so that a pasted page does not flatten all else. In pixels. */
  const TALLEST = 18;
  const most = $derived(
    Math.max(
      1,
      ...line.map(({ added, removed, strokes }) => Math.sqrt(Math.max(added + strokes, removed))),
    ),
  );
  const tall = (characters: number) =>
    `${characters === 0 ? 0 : Math.max(2, (TALLEST * Math.sqrt(characters)) / most)}px`;
</script>

<div class="mt-3 px-2">
  {#each lanes as [author, sittings] (author)}
    {#if lanes.length > 1}<p class="text-xs text-ink2">{nameOf(author)}</p>{/if}
    <div class="relative h-10 border-b border-rule/50" aria-hidden="true">
      <div class="absolute inset-x-0 top-1/2 border-t border-rule"></div>
      {#each sittings as { from, first, last, added, removed, strokes } (from)}
        <!-- By keys the slider goes there. -->
        <button
          tabindex="-1"
          title={nameOf(author)}
          class="absolute top-0 h-full min-w-1 border-r border-sheet hover:bg-ice-pale"
          onclick={() => onchange(last)}
          style:left={share(first - 1)}
          style:width={`${(100 * (last - first + 1)) / (end - begins)}%`}
        >
          <span
            class="absolute bottom-1/2 left-0 w-full bg-spruce"
            style:height={tall(added + strokes)}
          ></span>
          <span class="absolute top-1/2 left-0 w-full bg-quiet" style:height={tall(removed)}></span>
        </button>
      {/each}
      {#each sittings.flatMap(({ pasted }) => pasted) as { version: at, characters } (at)}
        <span
          class="absolute top-0 size-1.5 -translate-x-1/2 rotate-45 bg-ink"
          title="pasted: {characters} characters"
          style:left={share(at)}
        ></span>
      {/each}
      {#each kept as { version: at }, index (index)}
        <span class="absolute inset-y-0 border-l border-dashed border-ink2" style:left={share(at)}
        ></span>
      {/each}
    </div>
  {/each}
  <Slider
    min={begins}
    max={end}
    step={1}
    value={ends ?? [version]}
    disabled={newest === begins}
    onValueChange={({ value: [first = begins, second = newest] }) =>
      ends ? onends([first, second]) : onchange(first)}
    getAriaValueText={({ value }) => says(value)}
    aria-label={ends ? ['From this moment', 'To this moment'] : ['Moment']}
  >
    <Slider.Control class="relative flex h-7 items-center">
      <Slider.Track class="h-1 flex-1 rounded-full bg-rule">
        <Slider.Range class="h-full rounded-full bg-ice" />
      </Slider.Track>
      {#each ends ?? [version] as _, index (index)}
        <Slider.Thumb
          {index}
          class="size-5 rounded-full border-2 border-ink bg-lamp focus-visible:outline-2 focus-visible:outline-offset-2"
          ><Slider.HiddenInput /></Slider.Thumb
        >
      {/each}
    </Slider.Control>
  </Slider>
</div>
