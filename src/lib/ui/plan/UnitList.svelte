<script lang="ts" generics="Thing extends { id: string; title: string }">
  import GripVertical from '@lucide/svelte/icons/grip-vertical';
  import type { Snippet } from 'svelte';
  import { dragHandle, dragHandleZone, type DndEvent } from 'svelte-dnd-action';
  import { prefersReducedMotion } from 'svelte/motion';
  import { send } from '../send';

  interface UnitOf {
    /** Null for what stands in no unit. */
    id: string | null;
    title: string;
    things: Thing[];
  }
  interface Props {
    units: UnitOf[];
    /** Where the new order is sent; null when this person may not change it. */
    order: string | null;
    trouble: (sentence: string) => void;
    head: Snippet<[{ id: string; title: string }]>;
    row: Snippet<[Thing]>;
    foot: Snippet<[string | null]>;
    noUnit: string;
  }
  let { units, order, trouble, head, row, foot, noUnit }: Props = $props();

  const NONE = 'none';
  interface Zone {
    id: string;
    title: string;
    things: Thing[];
  }
  // What is dragged moves here first; what the server then says comes in from outside.
  let zones: Zone[] = $derived(units.map((unit) => ({ ...unit, id: unit.id ?? NONE })));
  const real = $derived(zones.filter(({ id }) => id !== NONE));
  const loose = $derived(zones.find(({ id }) => id === NONE));
  const still = $derived(order === null);

  function showUnits(next: Zone[]) {
    zones = loose ? [...next, loose] : next;
  }
  function showThings(zone: string, things: Thing[]) {
    zones = zones.map((one) => (one.id === zone ? { ...one, things } : one));
  }
  function kept() {
    if (order === null) return;
    const body = {
      units: zones.map(({ id, things }) => ({
        id: id === NONE ? null : id,
        things: things.map((thing) => thing.id),
      })),
    };
    send(order, body, 'PUT').catch((error: Error) => trouble(error.message));
  }
  const FLIP = $derived(prefersReducedMotion.current ? 0 : 150);
</script>

{#snippet things(zone: Zone)}
  <ul
    class="min-h-4"
    aria-label="In {zone.id === NONE ? noUnit : zone.title}"
    use:dragHandleZone={{
      items: zone.things,
      type: 'thing',
      flipDurationMs: FLIP,
      dragDisabled: still,
      dropTargetStyle: {},
      dropTargetClasses: ['drop-here'],
    }}
    onconsider={({ detail }: CustomEvent<DndEvent<Thing>>) => showThings(zone.id, detail.items)}
    onfinalize={({ detail }: CustomEvent<DndEvent<Thing>>) => {
      showThings(zone.id, detail.items);
      kept();
    }}
  >
    {#each zone.things as thing (thing.id)}
      <li
        class={[
          'flex items-start gap-1 border-b border-rule bg-sheet last:border-b-0',
          still && 'pl-2',
        ]}
        aria-label={thing.title}
      >
        {#if !still}<span
            use:dragHandle
            class="mt-2 ml-1 grid h-7 w-6 shrink-0 place-items-center rounded text-ink2"
            aria-label="Move {thing.title}: press Enter, then the arrows"
            ><GripVertical size={16} aria-hidden="true" /></span
          >{/if}
        {@render row(thing)}
      </li>
    {/each}
  </ul>
  {@render foot(zone.id === NONE ? null : zone.id)}
{/snippet}

<ol
  aria-label="Units"
  use:dragHandleZone={{
    items: real,
    type: 'unit',
    flipDurationMs: FLIP,
    dragDisabled: still,
    dropTargetStyle: {},
  }}
  onconsider={({ detail }: CustomEvent<DndEvent<Zone>>) => showUnits(detail.items)}
  onfinalize={({ detail }: CustomEvent<DndEvent<Zone>>) => {
    showUnits(detail.items);
    kept();
  }}
>
  {#each real as zone, index (zone.id)}
    <li class="mb-5 bg-paper" aria-label="Unit {index + 1}, {zone.title}">
      <div class="flex items-center gap-1 border-b-2 border-ink pb-1">
        {#if !still}<span
            use:dragHandle
            class="grid h-7 w-6 shrink-0 place-items-center rounded text-ink2"
            aria-label="Move unit {zone.title}: press Enter, then the arrows"
            ><GripVertical size={16} aria-hidden="true" /></span
          >{/if}
        <span class="w-7 shrink-0 font-page text-xl font-semibold text-ink2" aria-hidden="true"
          >{index + 1}</span
        >
        {@render head(zone)}
      </div>
      {@render things(zone)}
    </li>
  {/each}
</ol>
{#if loose && (!still || loose.things.length > 0)}
  <section class="mb-5" aria-label={noUnit}>
    <h2 class="border-b-2 border-rule pb-1 text-ink2">{noUnit}</h2>
    {@render things(loose)}
  </section>
{/if}
