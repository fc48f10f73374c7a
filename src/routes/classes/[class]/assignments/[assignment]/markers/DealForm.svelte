<script lang="ts">
  import { untrack } from 'svelte';
  import { SvelteSet } from 'svelte/reactivity';
  import { counted } from '$core/lists/counted';
  import { listed } from '$core/lists/listed';
  import { dealCopies, dealFault, DEALS, type DealBy } from '$core/marking/deal';
  import type { Dealt } from '$server/copy/deal-out';
  import type { MarkersView } from '$server/copy/view-markers';
  import Choice from '$ui/fields/Choice.svelte';
  import type { Dealing } from '$ui/marking/dealing.svelte';
  import DealtNotice from '$ui/marking/DealtNotice.svelte';

  interface Props {
    dealing: Dealing<Dealt>;
    staff: MarkersView['staff'];
    copies: MarkersView['copies'];
    isDealt: boolean;
  }
  let { dealing, staff, copies, isDealt }: Props = $props();

  const chosen = new SvelteSet<string>(untrack(() => staff.map(({ id }) => id)));
  let by: DealBy = $state('evenly');
  let twice = $state(0);
  const hasGroups = $derived(copies.some(({ group }) => group !== ''));
  const ways = $derived(
    (Object.entries(DEALS) as [DealBy, string][]).filter(([way]) => way !== 'group' || hasGroups),
  );
  const asked = $derived({
    by,
    twice: twice || 0,
    markers: staff.map(({ id }) => id).filter((id) => chosen.has(id)),
  });
  const fault = $derived(dealFault(asked, copies.length));
  /** "Ms Orrey 12 and Mr Holt 12. 2 copies are marked by two …" */
  const shares = $derived.by(() => {
    if (fault) return '';
    const dealt = [...dealCopies(copies, asked).values()].flat();
    const each = listed(
      staff
        .filter(({ id }) => chosen.has(id))
        .map(({ id, name }) => `${name} ${dealt.filter((one) => one === id).length}`),
    );
    if (asked.twice === 0) return `${each}.`;
    const two = counted(asked.twice, 'copy is', 'copies are');
    return `${each}. ${two} marked by two, who do not see what the other gives until both have scored.`;
  });

  const nobodys = $derived({ copies: copies.map(({ id }) => ({ copy: id, markers: [] })) });
</script>

<DealtNotice
  {dealing}
  says={isDealt ? 'The copies are dealt.' : 'The copies are nobody’s in particular.'}
/>
{#if dealing.isOpen}
  <form
    class="mt-3 max-w-3xl rounded-lg border border-rule bg-sheet px-4 py-3"
    onsubmit={(event) => {
      event.preventDefault();
      void dealing.deal(asked);
    }}
  >
    <fieldset class="flex flex-wrap gap-x-5 gap-y-1">
      <legend class="label">Who marks</legend>
      {#each staff as { id, name, kind } (id)}
        <label class="flex min-h-6 items-center gap-1.5"
          ><input
            type="checkbox"
            checked={chosen.has(id)}
            onchange={() => (chosen.has(id) ? chosen.delete(id) : chosen.add(id))}
          />{name} <span class="text-sm text-ink2">{kind}</span></label
        >
      {/each}
    </fieldset>
    <div class="mt-3 flex flex-wrap items-end gap-6">
      {#if ways.length > 1}<Choice
          label="How copies are dealt"
          options={ways}
          bind:value={by}
        />{/if}
      <label
        ><span class="label">Marked by two</span><span class="flex items-center gap-2"
          ><input class="field w-20" type="number" min="0" max={copies.length} bind:value={twice} />
          of {counted(copies.length, 'copy', 'copies')}{#if copies.length > 0 && twice > 0}, {Math.round(
              (twice / copies.length) * 100,
            )} %{/if}</span
        ></label
      >
    </div>
    <p class="mt-3" aria-live="polite">
      {fault ?? shares}
    </p>
    <div class="mt-3 flex gap-2">
      <button
        class="act act-main"
        disabled={dealing.sending || fault !== null || copies.length === 0}
        >Deal {counted(copies.length, 'copy', 'copies')}</button
      >
      {#if isDealt}<button
          type="button"
          class="act"
          disabled={dealing.sending}
          onclick={() => dealing.set(nobodys)}>To nobody in particular</button
        >{/if}
      <button type="button" class="act act-plain" onclick={() => (dealing.isOpen = false)}
        >Cancel</button
      >
    </div>
  </form>
{/if}
