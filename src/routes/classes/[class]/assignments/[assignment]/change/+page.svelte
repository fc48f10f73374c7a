<script lang="ts">
  import { untrack } from 'svelte';
  import { goto } from '$app/navigation';
  import type { ChangeFact } from '$core/handout/change-facts';
  import type { Oddity } from '$core/handout/plan-facts';
  import { sayChangeFact } from '$core/handout/say-change';
  import { sayOddity } from '$core/handout/say-plan';
  import AsStudent from '$ui/handout/AsStudent.svelte';
  import PlanSentences from '$ui/handout/PlanSentences.svelte';
  import HandOutFields from '$ui/handout/HandOutFields.svelte';
  import { HandOutForm } from '$ui/handout/hand-out-form.svelte';
  import { send } from '$ui/send';

  interface Preview {
    facts: ChangeFact[];
    oddities: Oddity[];
  }
  let { data } = $props();
  const form = untrack(() => new HandOutForm(data.world, data.assignment.spec));
  let begin: 'shared page' | 'original' = $state('shared page');
  let says = $state<string[] | null>(null);
  let oddities: string[] = $state([]);
  let trouble = $state('');
  let busy = $state(false);

  const seen = untrack(() => data.assignment.newest);
  const view = $derived(`/classes/${data.klass.id}/assignments/${data.assignment.id}`);
  const wasShared = $derived(
    data.assignment.spec.originals.some(
      ({ delivery }) => delivery === 'one for all' || delivery === 'one per group',
    ),
  );
  const becomesOwn = $derived(form.spec.originals.some(({ delivery }) => delivery === 'one each'));
  const isSame = $derived(says?.length === 0);

  /** What the change would do is asked anew whenever it is another change. */
  $effect(() => {
    const spec = form.whole;
    const body = { spec, begin, preview: true };
    if (form.fault) {
      trouble = form.fault;
      return;
    }
    let outdated = false;
    const soon = setTimeout(async () => {
      try {
        const answer = await send<Preview>(`${view}/change`, body);
        if (outdated) return;
        const zone = form.world.timeZone;
        says = answer.facts.map((fact) => sayChangeFact(fact, zone));
        oddities = answer.oddities.map((oddity) => sayOddity(oddity, zone));
        trouble = '';
      } catch (error) {
        if (!outdated) trouble = error instanceof Error ? error.message : '';
      }
    }, 200);
    return () => {
      outdated = true;
      clearTimeout(soon);
    };
  });

  async function make(event: SubmitEvent) {
    event.preventDefault();
    busy = true;
    try {
      await send(`${view}/change`, { spec: form.whole, begin, seen, preview: false });
      await goto(view);
    } catch (error) {
      trouble = `${error instanceof Error ? error.message : ''} Nothing was changed.`;
    } finally {
      busy = false;
    }
  }
</script>

<div class="flex min-h-0 flex-1 max-lg:flex-col max-lg:overflow-auto">
  <main class="min-w-0 flex-1 overflow-auto px-6 pt-4 max-lg:overflow-visible">
    <form class="mx-auto max-w-3xl space-y-4" onsubmit={make}>
      <h1 class="text-xl font-bold">Change what was handed out</h1>
      <HandOutFields {form} fixed={data.klass.id} />
      {#if wasShared && becomesOwn}
        <fieldset>
          <legend class="label">What each student’s own page begins as</legend>
          <label class="mr-6"
            ><input type="radio" value="shared page" bind:group={begin} /> the shared page as it stands
            now</label
          >
          <label><input type="radio" value="original" bind:group={begin} /> the original</label>
        </fieldset>
      {/if}
      <div class="sticky bottom-0 z-10 -mx-2 border-t border-rule bg-paper px-2 pt-3">
        {#if trouble}<p class="trouble" role="alert">{trouble}</p>
        {:else if says}<PlanSentences
            sentences={isSame ? ['Nothing changes.'] : says}
            {oddities}
          />{/if}
        <div class="flex flex-wrap items-center gap-3 py-3">
          <button class="act act-main" disabled={busy || isSame || trouble !== ''}
            >Save this change</button
          >
          <a class="act" href={view}>Cancel</a>
          <span class="text-sm text-ink2">It can be undone.</span>
        </div>
      </div>
    </form>
  </main>
  <aside
    class="w-[27rem] shrink-0 overflow-auto border-l border-rule bg-sheet px-5 py-4 max-lg:w-full max-lg:border-t max-lg:border-l-0"
    aria-label="Preview"
  >
    <AsStudent {form} />
  </aside>
</div>
