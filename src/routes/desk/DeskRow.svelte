<script lang="ts">
  import type { DeskLine } from '$core/desk/desk-view';
  import { groupOf } from '$core/desk/urgency';
  import Rosette from '$ui/copy/Rosette.svelte';
  import { figureOf, leadsTo, linkOf, moreOf, sayPlace, titleOf, type Telling } from './line-words';
  import PutOff from './PutOff.svelte';

  interface Props {
    line: DeskLine;
    /** Whether it is the first of its group. */
    first: boolean;
    telling: Telling;
    /** The next lessons of the classes, by their ids, in epoch milliseconds. */
    nextLesson: Readonly<Record<string, number>>;
    /** Settles it from here; null where it has to be looked at. */
    settle: { says: string; run: () => void } | null;
    putOff: (until: number) => Promise<string>;
  }
  let { line, first, telling, nextLesson, settle, putOff }: Props = $props();

  const title = $derived(titleOf(line));
  const group = $derived(groupOf(line));
  const figure = $derived(figureOf(line));
  const more = $derived(moreOf(line, telling));
  const place = $derived(line.places[0]);
  const isMain = $derived(first && (group === 'answer' || settle !== null));
  const lesson = $derived(
    line.places
      .flatMap(({ class: { id, name } }) => {
        const at = nextLesson[id];
        return at === undefined ? [] : [{ name, at }];
      })
      .sort((a, b) => a.at - b.at)[0] ?? null,
  );
</script>

<li
  class="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-rule px-4 py-2.5 last:border-b-0"
>
  <span class="grid w-9 shrink-0 place-items-center text-xl font-bold">
    {#if figure !== null}{figure}{:else if line.kind === 'nudge' || line.kind === 'stuck'}<Rosette
        mask={place?.copy?.mask ?? ''}
        state={line.kind === 'nudge' ? 'unopened' : 'working'}
      />{:else if group === 'mend'}<Rosette mask="" state="opened" gap />{:else}<span
        aria-hidden="true">{line.kind === 'due' ? '◷' : line.kind === 'office' ? '⇄' : '↗'}</span
      >{/if}
  </span>
  <p class="min-w-0 flex-1 basis-64">
    <strong class="wrap-anywhere">{title}</strong>
    {#if more}<span class="text-sm text-ink2">{more}</span>{/if}
    {#if line.kind === 'nudge' && line.overdue}<span class="text-sm text-rust">overdue</span>{/if}
    {#if line.kind === 'draft' && line.fault}<span class="text-sm text-rust">{line.fault}</span
      >{/if}
    <span class="block text-sm text-ink2">
      {#each line.places as one, index (one.class.id)}
        {#if index > 0}<span aria-hidden="true">&nbsp;·&nbsp;</span>{/if}
        {#if line.places.length > 1}<a
            class="font-semibold text-ink2 hover:text-spruce"
            href={leadsTo(line, one)}>{one.class.name}</a
          >{:else}{one.class.name} {one.class.title}{/if}
        {sayPlace(line, one, telling)}
      {/each}
    </span>
  </p>
  <span class="flex items-center gap-1.5">
    {#if settle}<button
        class={['act', isMain && 'act-main']}
        aria-label="{settle.says} {title}"
        onclick={settle.run}>{settle.says}</button
      >{/if}
    {#if place}<a
        href={leadsTo(line, place)}
        class={['act', isMain && !settle && 'act-main']}
        aria-label="{linkOf(line)}: {title}, {place.class.name} {place.class.title}"
        >{linkOf(line)}</a
      >{/if}
    <PutOff {title} {lesson} now={telling.now} timeZone={telling.timeZone} {putOff} />
  </span>
</li>
