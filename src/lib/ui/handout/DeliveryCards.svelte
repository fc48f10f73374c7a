<script lang="ts">
  import { DELIVERIES, type Delivery } from '$core/handout/spec';

  interface Props {
    value: Delivery;
    choose: (delivery: Delivery) => void;
    /** Of what page, for whoever does not see where the cards stand. */
    page: string;
    groups: string;
  }
  let { value, choose, page, groups }: Props = $props();

  const SAYS = $derived<Record<Delivery, { title: string; says: string }>>({
    'to read': { title: 'To read', says: 'nobody writes on it' },
    'one for all': { title: 'One for all', says: 'a class writes on the same page' },
    'one per group': { title: 'One per group', says: groups },
    'one each': { title: 'One each', says: 'named for each student' },
  });
  /** Sheets and the people at them: x of each sheet, then x and y of each head. */
  const DRAWN: Record<Delivery, { sheets: number[]; heads: [number, number][]; filled: boolean }> =
    {
      'to read': {
        sheets: [2],
        heads: [
          [42, 6],
          [58, 6],
          [42, 20],
          [58, 20],
        ],
        filled: false,
      },
      'one for all': {
        sheets: [30],
        heads: [
          [12, 6],
          [62, 6],
          [12, 20],
          [62, 20],
        ],
        filled: true,
      },
      'one per group': {
        sheets: [2, 44],
        heads: [
          [24, 6],
          [24, 20],
          [66, 6],
          [66, 20],
        ],
        filled: true,
      },
      'one each': {
        sheets: [2, 22, 42, 62],
        heads: [
          [8, 3],
          [28, 3],
          [48, 3],
          [68, 3],
        ],
        filled: false,
      },
    };
</script>

<div
  class="grid grid-cols-2 gap-2 sm:grid-cols-4"
  role="radiogroup"
  aria-label="How {page} reaches them"
>
  {#each DELIVERIES as delivery (delivery)}
    {@const drawn = DRAWN[delivery]}
    <label
      class={[
        'cursor-pointer rounded-lg border px-3 py-2.5 focus-within:outline-2 focus-within:outline-offset-2',
        value === delivery
          ? 'border-spruce bg-spruce-pale shadow-[inset_0_0_0_1px_var(--spruce)]'
          : 'border-rule bg-sheet hover:border-quiet',
      ]}
    >
      <input
        class="sr-only"
        type="radio"
        name="delivery {page}"
        value={delivery}
        checked={value === delivery}
        onchange={() => choose(delivery)}
      />
      <svg width="78" height="28" viewBox="0 0 78 28" aria-hidden="true">
        {#each drawn.sheets as x (x)}<rect
            {x}
            y={delivery === 'one each' ? 9 : 5}
            width="13"
            height="17"
            rx="2"
            fill={drawn.filled ? 'var(--spruce-pale)' : 'none'}
            stroke="var(--ink)"
            stroke-width="1.5"
          />{/each}
        {#each drawn.heads as [x, y] (`${x} ${y}`)}<circle
            cx={x}
            cy={y + (delivery === 'one each' ? 1 : 0)}
            r="3.6"
            fill="var(--spruce)"
          />{/each}
      </svg>
      <strong class="block leading-tight">{SAYS[delivery].title}</strong>
      <span class={['block text-sm leading-tight', value === delivery ? 'text-ink' : 'text-ink2']}
        >{SAYS[delivery].says}</span
      >
    </label>
  {/each}
</div>
