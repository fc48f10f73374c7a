<script lang="ts">
  import ListFilter from '@lucide/svelte/icons/list-filter';
  import { ordersOf } from '$core/board/arrange';
  import { groupKey, MARKS, sayMark, type Mark } from '$core/board/board-view';
  import Choice from '$ui/fields/Choice.svelte';
  import Menu from '$ui/shell/Menu.svelte';
  import type { BoardModel } from './board-model.svelte';
  import type { ViewInAddress } from './board-view.svelte';
  import type { PageData } from './$types';

  interface Props {
    view: ViewInAddress;
    model: BoardModel;
    data: PageData;
  }
  /** By what the board is seen, and which of it. */
  let { view, model, data }: Props = $props();

  const { marks, unit, group, lens } = $derived(view.now);
  const { groupings, board } = $derived(data);
  const { chosen } = $derived(view);
  /** What occurs, and what was chosen although it does not. */
  const offered = $derived(
    MARKS.filter(
      (mark) =>
        marks.includes(mark) ||
        model.all.some(({ state, flags }) =>
          mark in flags ? flags[mark as keyof typeof flags] : state === mark,
        ),
    ),
  );
  const toggle = (mark: Mark) =>
    view.choose({
      marks: marks.includes(mark) ? marks.filter((one) => one !== mark) : [...marks, mark],
    });
</script>

<Choice
  label="What the board shows"
  options={[
    ['work', 'Work'],
    ['gaps', model.gaps.length > 0 ? `Gaps ${model.gaps.length}` : 'Gaps'],
    ['points', 'Points'],
    ['hours', 'Hours'],
  ]}
  bind:value={() => lens, (lens) => view.choose({ lens })}
/>
<Menu
  label="Filter the board{chosen ? `, ${chosen} chosen` : ''}"
  look={['act act-small gap-1.5', chosen > 0 && 'bg-ice-pale'].filter(Boolean).join(' ')}
>
  {#snippet button()}<ListFilter size={15} aria-hidden="true" /> Filter{chosen
      ? ` ${chosen}`
      : ''}{/snippet}
  <div class="grid max-h-[28rem] gap-2 overflow-auto p-2">
    <label
      ><span class="label">Sort students</span><select
        class="field py-1.5"
        value={view.now.order}
        onchange={(event) => view.choose({ order: event.currentTarget.value })}
      >
        {#each ordersOf(groupings) as { order, says } (order)}<option value={order}>{says}</option
          >{/each}
      </select></label
    >
    {#if groupings.length > 0}
      <label
        ><span class="label">Group</span><select
          class="field py-1.5"
          value={group}
          onchange={(event) => view.choose({ group: event.currentTarget.value })}
        >
          <option value="">all students</option>
          {#each groupings as grouping (grouping.id)}<optgroup label={grouping.name}>
              {#each grouping.groups as { name } (name)}<option value={groupKey(grouping.id, name)}
                  >{name}</option
                >{/each}
            </optgroup>{/each}
        </select></label
      >
    {/if}
    {#if board.units.length > 0}
      <label
        ><span class="label">Unit</span><select
          class="field py-1.5"
          value={unit}
          onchange={(event) => view.choose({ unit: event.currentTarget.value })}
        >
          <option value="">all units</option>
          {#each board.units as { id, title } (id)}<option value={id}>{title}</option>{/each}
          <option value="none">no unit</option>
        </select></label
      >
    {/if}
    <fieldset>
      <legend class="label">Only copies that are</legend>
      {#each offered as mark (mark)}
        <label class="flex min-h-7 items-center gap-2"
          ><input type="checkbox" checked={marks.includes(mark)} onchange={() => toggle(mark)} />
          {sayMark(mark)}</label
        >
      {/each}
    </fieldset>
  </div>
</Menu>
