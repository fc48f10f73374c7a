<script lang="ts">
  import { SegmentedControl } from '@skeletonlabs/skeleton-svelte';
  import { writePoints } from '$core/marking/points';
  import type { RubricStep } from '$core/marking/rubric-steps';

  interface Props {
    /** What a screen reader hears of the line. */
    label: string;
    steps: readonly RubricStep[];
    /** What the levels of a step say. */
    describe: (step: RubricStep) => string;
    /** A step's points; null for none yet. */
    value: string | null;
    /** The step under the pointer. */
    onpoint: (step: RubricStep | null) => void;
  }
  let { label, steps, describe, value = $bindable(), onpoint }: Props = $props();
  const at = $derived(steps.findIndex(({ points }) => points === value));
  const isLevel = (step: RubricStep) => step.levels.length === 1;

  function onkeydown(event: KeyboardEvent) {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const level = steps.find((step) => isLevel(step) && step.points === event.key);
    const chosen = level ?? (event.key === '.' ? steps[at + (isHalf(at) ? -1 : 1)] : undefined);
    if (!chosen) return;
    event.preventDefault();
    value = chosen.points;
    // The focus goes along, so that the arrows go on from here.
    const control = event.currentTarget as HTMLElement;
    control.querySelectorAll<HTMLInputElement>('input')[steps.indexOf(chosen)]?.focus();
  }
  const isHalf = (index: number) => {
    const step = steps[index];
    return step !== undefined && !isLevel(step);
  };
</script>

{#snippet line(isReached: boolean, where: string)}
  <span
    class={['absolute top-[0.8rem] h-0.5', where, isReached ? 'bg-spruce' : 'bg-rule']}
    aria-hidden="true"
  ></span>
{/snippet}
<SegmentedControl {value} onValueChange={(change) => (value = change.value)}>
  <SegmentedControl.Label class="sr-only">{label}</SegmentedControl.Label>
  <SegmentedControl.Control class="relative flex" {onkeydown} onpointerleave={() => onpoint(null)}>
    {#each steps as step, index (step.points)}
      <SegmentedControl.Item
        value={step.points}
        class="group relative flex flex-1 cursor-pointer flex-col items-center rounded-md pt-1 has-focus-visible:outline-2 has-focus-visible:outline-ice"
        onpointerenter={() => onpoint(step)}
      >
        {#if index > 0}{@render line(index <= at, 'right-1/2 left-0')}{/if}
        {#if index < steps.length - 1}{@render line(index < at, 'right-0 left-1/2')}{/if}
        <span class="relative flex h-5 items-center" aria-hidden="true">
          <span
            class={[
              isLevel(step) ? 'rounded-full' : 'rotate-45 rounded-xs',
              index === at
                ? isLevel(step)
                  ? 'h-4 w-4 bg-spruce'
                  : 'h-3 w-3 bg-spruce'
                : isLevel(step)
                  ? [
                      'h-2.5 w-2.5 border-2',
                      index < at ? 'border-spruce bg-spruce' : 'border-ink2 bg-sheet',
                    ]
                  : 'h-1.5 w-1.5 bg-transparent group-hover:bg-ink2',
            ]}
          ></span>
        </span>
        <SegmentedControl.ItemText
          class={['text-xs text-ink2', isLevel(step) ? '' : 'sr-only'].join(' ')}
          >{writePoints(step.points)}<span class="sr-only">, {describe(step)}</span
          ></SegmentedControl.ItemText
        >
        <SegmentedControl.ItemHiddenInput />
      </SegmentedControl.Item>
    {/each}
  </SegmentedControl.Control>
</SegmentedControl>
