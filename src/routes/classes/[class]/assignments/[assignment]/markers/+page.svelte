<script lang="ts">
  import { untrack } from 'svelte';
  import { counted } from '$core/lists/counted';
  import { listed } from '$core/lists/listed';
  import { areEqual, settledScore, sideBySide } from '$core/marking/settle';
  import type { Dealt } from '$server/copy/deal-out';
  import { Dealing } from '$ui/marking/dealing.svelte';
  import { readAgain, refreshOnNews } from '$ui/refresh';
  import { send } from '$ui/send';
  import Agreement from './Agreement.svelte';
  import DealForm from './DealForm.svelte';
  import SettleOne from './SettleOne.svelte';

  let { data } = $props();
  refreshOnNews(
    'uncia:markers',
    (heard) =>
      heard === 'resync' ||
      heard.some(
        (one) =>
          (one.kind === 'copy' && one.row.assignment === data.assignment) ||
          (one.kind === 'class' && one.class === data.klass.id),
      ),
  );
  const changed = () => readAgain('uncia:markers');

  const nobodys = $derived(data.copies.filter(({ markers }) => markers.length === 0).length);
  const twice = $derived(data.copies.filter(({ markers }) => markers.length > 1).length);
  const isDealt = $derived(nobodys < data.copies.length);
  const dealing = untrack(
    () =>
      new Dealing<Dealt>(
        `/classes/${data.klass.id}/assignments/${data.assignment}/markers/deal`,
        changed,
      ),
  );
  dealing.isOpen = untrack(() => data.mayDeal && !isDealt);

  /** Those of which both gave the same. */
  const alike = $derived(
    data.toSettle.filter(({ scores }) => sideBySide(scores, data.most).every(areEqual)),
  );
  const differing = $derived(data.toSettle.filter((one) => !alike.includes(one)));
  let done: number | null = $state(null);
  let sentence = $state('');
  async function settleAlike() {
    done = 0;
    sentence = '';
    try {
      for (const { copy, scores } of alike) {
        const given = settledScore(scores, {}, data.most);
        const of = scores.map(({ id }) => id);
        if (given) await send(`/pages/${copy}/marking`, { move: 'settle', given, of });
        done += 1;
      }
    } catch (error) {
      sentence = `${done} are settled. ${error instanceof Error ? error.message : ''}`;
    }
    done = null;
    await changed();
  }
</script>

<main class="mx-auto min-h-0 w-full max-w-5xl flex-1 overflow-auto px-6 py-5">
  <h1 class="text-2xl font-bold">Markers of {data.title}</h1>
  <section class="mt-4" aria-labelledby="who-marks">
    <div class="flex flex-wrap items-baseline gap-3">
      <h2 id="who-marks" class="flex-1 text-lg font-bold">Who marks</h2>
      {#if data.mayDeal && !dealing.isOpen}<button
          class="act"
          onclick={() => (dealing.isOpen = true)}
          >{isDealt ? 'Deal anew …' : 'Deal copies …'}</button
        >{/if}
    </div>
    {#if isDealt}
      <table class="mt-2 w-full max-w-3xl">
        <thead
          ><tr class="text-left text-sm text-ink2"
            ><th class="py-1 font-normal">Name</th><th class="text-right font-normal">Copies</th><th
              class="text-right font-normal">Marked</th
            ><th class="text-right font-normal">To mark</th></tr
          ></thead
        >
        <tbody>
          {#each data.staff.filter((one) => one.dealt > 0) as one (one.id)}
            <tr class="border-t border-rule"
              ><th class="py-1.5 text-left font-normal"
                ><strong>{one.name}</strong> <span class="text-ink2">{one.kind}</span></th
              ><td class="text-right">{one.dealt}</td><td class="text-right">{one.done}</td><td
                class="text-right">{one.waits}</td
              ></tr
            >
          {/each}
        </tbody>
      </table>
      <p class="mt-2 text-ink2">
        {twice > 0
          ? `${counted(twice, 'copy is', 'copies are')} marked by two, who do not see what the other gives.`
          : 'Each copy is marked by one person.'}
        {nobodys > 0
          ? `${counted(nobodys, 'copy is', 'copies are')} dealt to nobody: whoever comes marks ${nobodys === 1 ? 'it' : 'them'}.`
          : ''}
      </p>
    {:else}<p class="mt-1 text-ink2">
        Nobody in particular: whoever comes marks.{data.mayDeal
          ? ''
          : ' The lead of the class deals copies.'}
      </p>{/if}
    {#if data.mayDeal}<DealForm {dealing} staff={data.staff} copies={data.copies} {isDealt} />{/if}
  </section>

  {#if twice > 0}
    <section class="mt-7" aria-labelledby="to-settle">
      <h2 id="to-settle" class="text-lg font-bold">To settle</h2>
      {#if sentence}<p class="trouble mt-2" role="alert">{sentence}</p>{/if}
      {#if alike.length > 0}<div class="notice mt-2 flex flex-wrap items-center gap-3">
          <p class="flex-1">
            Both gave the same to {listed(alike.map(({ name }) => name))}.
          </p>
          <button class="act act-main" disabled={done !== null} onclick={settleAlike}
            >{done === null
              ? `Let ${alike.length === 1 ? 'it' : `all ${alike.length}`} count`
              : `${done} of ${alike.length}`}</button
          >
        </div>{/if}
      {#each differing as one (one.copy)}
        <SettleOne {one} klass={data.klass.id} most={data.most} {changed} />
      {:else}<p class="mt-1 text-ink2">
          {alike.length > 0 ? 'Nothing else differs.' : 'Nothing to settle now.'}
        </p>{/each}
      {#if data.waiting > 0}<p class="mt-2 text-sm text-ink2">
          Of {counted(data.waiting, 'copy', 'copies')} that two mark, not both have scored all yet.
        </p>{/if}
    </section>
    <section class="mt-7" aria-labelledby="agreement">
      <h2 id="agreement" class="text-lg font-bold">Agreement</h2>
      {#each data.agreement as pair (pair.by.join(' '))}
        <Agreement {pair} />
      {:else}<p class="mt-1 text-ink2">
          It is shown here once two people have scored the same copy.
        </p>{/each}
    </section>
  {/if}
</main>
