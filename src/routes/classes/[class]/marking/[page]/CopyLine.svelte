<script lang="ts">
  import ArrowDown from '@lucide/svelte/icons/arrow-down';
  import ArrowUp from '@lucide/svelte/icons/arrow-up';
  import Check from '@lucide/svelte/icons/check';
  import { flagsOf, stateOf } from '$core/copy/state';
  import { sayMarkingTime } from '$core/desk/marking-pace';
  import { LINE_ORDERS, type LineOrder } from '$core/marking/marking-line';
  import Rosette from '$ui/copy/Rosette.svelte';
  import OnOff from '$ui/fields/OnOff.svelte';
  import Tip from '$ui/fields/Tip.svelte';
  import { send } from '$ui/send';
  import Menu from '$ui/shell/Menu.svelte';
  import type { PageData } from './$types';
  import type { CopyLine } from './copy-line.svelte';

  interface Props {
    line: CopyLine;
    klass: string;
    data: Pick<PageData, 'page' | 'copy' | 'assignment' | 'mayMark' | 'pace' | 'rubric'>;
    now: number;
    go: (by: 1 | -1) => void;
  }
  let { line, klass, data, now, go }: Props = $props();

  const shown = $derived(line.shown(data.page));
  const orders = $derived(
    (Object.entries(LINE_ORDERS) as [LineOrder, string][]).filter(
      ([order]) => order !== 'group' || line.hasGroups,
    ),
  );
  const assignment = $derived(`/classes/${klass}/assignments/${data.assignment.id}`);
  const place = $derived(`${assignment}/marking/place`);
  const page = $derived(data.page);
  const mayMark = $derived(data.mayMark);
  // Where one is, and how one goes on, is there again the next time. Not kept, nothing is lost.
  $effect(() => {
    if (mayMark) void send(place, { page, ...line.choice }, 'PUT').catch(() => undefined);
  });
  $effect(() => {
    document.getElementById(`line-${data.page}`)?.scrollIntoView({ block: 'nearest' });
  });
</script>

<nav
  class="flex w-53 shrink-0 flex-col overflow-hidden border-r border-rule bg-sheet max-lg:w-full max-lg:border-r-0"
  aria-label="Students"
>
  <p class="flex items-center gap-2 px-3 pt-2 pb-1 font-bold">
    <span class="flex-1">{line.toMark} to mark</span>
    <Tip says="Previous student, [" class="act act-small min-w-8 px-0" onclick={() => go(-1)}
      ><ArrowUp size={16} aria-hidden="true" /></Tip
    >
    <Tip says="Next student, ]" class="act act-small min-w-8 px-0" onclick={() => go(1)}
      ><ArrowDown size={16} aria-hidden="true" /></Tip
    >
  </p>
  {#if line.toMark > 0 && line.marked > 0}<p class="px-3 text-sm leading-tight text-ink2">
      {line.marked} of {line.marked + line.toMark} marked{#if data.pace !== null},
        {sayMarkingTime(line.toMark, data.pace)} at your pace{/if}
    </p>{/if}
  <div class="flex flex-wrap items-center px-1.5 pb-1">
    <Menu label="Order of the copies" look="act act-small act-plain px-1.5">
      {#snippet button()}{LINE_ORDERS[line.choice.order]} ▾{/snippet}
      {#each orders as [order, says] (order)}
        <button
          type="button"
          aria-pressed={order === line.choice.order}
          onclick={() => line.choose({ ...line.choice, order })}>{says}</button
        >
      {/each}
      <hr class="my-1 border-rule" />
      <div class="px-3 py-1.5">
        <OnOff
          says="Only what is to mark"
          bind:on={
            () => line.choice.unmarkedOnly,
            (unmarkedOnly) => line.choose({ ...line.choice, unmarkedOnly })
          }
        />
        {#if line.hasOwn}<OnOff
            says="Those of other markers, too"
            bind:on={() => line.choice.all, (all) => line.choose({ ...line.choice, all })}
          />{/if}
      </div>
    </Menu>
    {#if data.mayMark}<a class="act act-small act-plain px-1.5" href="{assignment}/hand-back"
        >Hand back …</a
      ><a class="act act-small act-plain px-1.5" href="{assignment}/by-part?page={data.copy.for}"
        >Part by part</a
      >{#if data.rubric}<a class="act act-small act-plain px-1.5" href="{assignment}/by-criterion"
          >By criterion</a
        >{/if}{/if}
  </div>
  <ul class="min-h-0 flex-1 overflow-auto max-lg:max-h-40">
    {#each shown as one, index (one.copy.id)}
      {@const theirs = stateOf(one.copy.facts)}
      {#if line.choice.order === 'group' && one.group !== shown[index - 1]?.group}<li
          class="px-3 pt-2 pb-0.5 text-sm text-ink2"
        >
          {one.group || 'In no group'}
        </li>{/if}
      <li>
        <a
          id="line-{one.copy.id}"
          href="/classes/{klass}/marking/{one.copy.id}"
          class={[
            'flex items-center gap-3 border-l-3 px-2.5 py-1 text-ink no-underline',
            one.copy.id === data.page
              ? 'border-ice bg-ice-pale'
              : 'border-transparent hover:bg-paper',
          ]}
          aria-current={one.copy.id === data.page ? 'page' : undefined}
        >
          <Rosette
            mask={one.copy.mask}
            state={theirs}
            flags={flagsOf(one.copy.facts, now)}
            points={one.copy.points}
            size={27}
          />
          <span class="min-w-0 flex-1 truncate"
            >{one.name}<span class="sr-only">, {one.given ? 'you have scored it' : theirs}</span
            ></span
          >
          {#if one.given}<Check size={15} class="text-spruce" aria-hidden="true" />
          {:else if line.choice.all && one.markers?.length}<span
              class="shrink-0 truncate text-xs text-ink2"
              >{one.markers.map(({ name }) => name).join(', ')}</span
            >{/if}
        </a>
      </li>
    {/each}
  </ul>
</nav>
