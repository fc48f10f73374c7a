<script lang="ts">
  import { counted } from '$core/lists/counted';
  import { listed } from '$core/lists/listed';
  import { sayParts } from '$core/marking/sum-parts';
  import type { CheckChange } from '$core/marking/check-change';

  interface Props {
    /** What is accepted, in words. */
    says: string;
    changes: readonly CheckChange[];
    named: boolean;
    sending: boolean;
    yes: () => void;
    no: () => void;
    /** What the button says that does it. */
    deed: string;
  }
  let { says, changes, named, sending, yes, no, deed }: Props = $props();

  const worth = (change: CheckChange) =>
    Number(change.now.points) - Number(change.was?.points ?? 0);
  const gain = $derived(changes.filter((one) => worth(one) > 0));
  const lose = $derived(changes.filter((one) => worth(one) < 0));
  const same = $derived(changes.length - gain.length - lose.length);
  const back = $derived(changes.filter(({ isBack }) => isBack).length);
  /** "5 in 8C and 3 in 8A" */
  const where = (some: readonly CheckChange[]) => {
    const classes = [...new Set(some.map((one) => one.class))];
    return listed(
      classes.map((name) => `${some.filter((one) => one.class === name).length} in ${name}`),
    );
  };
</script>

<section class="notice mt-4" aria-label="Who gains or loses">
  <p>
    <strong>{says}</strong>
    {changes.length === 0
      ? 'changes nobody’s points.'
      : `${listed([
          ...(gain.length > 0 ? [`gives points to ${where(gain)}`] : []),
          ...(lose.length > 0 ? [`takes points from ${where(lose)}`] : []),
          ...(same > 0
            ? [`changes what is left to score in ${counted(same, 'copy', 'copies')}`]
            : []),
        ])}.`}
    {#if back > 0}{counted(back, 'of them is', 'of them are')} handed back: their students are told only
      when you hand back again.{/if}
  </p>
  {#if named && changes.length > 0}
    <ul class="mt-2 max-h-48 overflow-auto text-sm">
      {#each changes as one (one.copy)}
        <li>
          {one.names.join(', ')}, {one.class}: {one.was ? `${sayParts(one.was)} → ` : ''}{sayParts(
            one.now,
          )}
        </li>
      {/each}
    </ul>
  {/if}
  <div class="mt-2 flex gap-2">
    <button type="button" class="act act-main" disabled={sending} onclick={yes}>{deed}</button>
    <button type="button" class="act" onclick={no}>Cancel</button>
  </div>
</section>
