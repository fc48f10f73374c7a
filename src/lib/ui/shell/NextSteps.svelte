<script lang="ts">
  import Check from '@lucide/svelte/icons/check';

  interface Step {
    title: string;
    done: boolean;
    to: string;
    button: string;
  }
  let { title, steps }: { title: string; steps: Step[] } = $props();
  const next = $derived(steps.findIndex(({ done }) => !done));
</script>

{#if next >= 0}
  <section class="mt-5 rounded-lg border border-rule bg-sheet p-4" aria-labelledby="next-steps">
    <h2 id="next-steps" class="text-lg font-bold">{title}</h2>
    <ol class="mt-2">
      {#each steps as step, index (step.title)}
        <li class="flex items-center gap-3 border-t border-rule py-2">
          <span
            class={[
              'grid h-7 w-7 shrink-0 place-items-center rounded-full border text-sm',
              step.done ? 'border-spruce bg-spruce text-on-spruce' : 'border-rule',
            ]}
            >{#if step.done}<Check size={16} aria-label="done" />{:else}{index + 1}{/if}</span
          >
          <span class={['min-w-0 flex-1', index === next ? 'font-bold' : 'text-ink2']}
            >{step.title}</span
          >
          {#if index === next}<a class="act act-main act-small" href={step.to}>{step.button}</a
            >{/if}
        </li>
      {/each}
    </ol>
  </section>
{/if}
