<script lang="ts">
  import { tick, untrack } from 'svelte';
  import { SvelteSet } from 'svelte/reactivity';
  import { stateOf } from '$core/copy/state';
  import { isBehind } from '$core/copy/copy-row';
  import { counted } from '$core/lists/counted';
  import { writePoints } from '$core/marking/points';
  import type { HandBackSheet } from '$server/copy/hand-back-sheets';
  import { handBackKept } from '$ui/marking/hand-back-kept';
  import { aboutMargins, readAgain, refreshOnNews } from '$ui/refresh';
  import BackSheet from './BackSheet.svelte';

  let { data } = $props();
  refreshOnNews(
    'uncia:hand-back',
    (heard) =>
      heard === 'resync' ||
      aboutMargins(heard) ||
      heard.some((one) => one.kind === 'copy' && one.row.assignment === data.assignment),
  );

  /** What is scored and not with its student yet. */
  const isMarked = ({ copy }: HandBackSheet) => stateOf(copy.facts) === 'marked' || isBehind(copy);
  const chosen = new SvelteSet<string>(
    untrack(() => data.sheets.filter(isMarked).map(({ copy }) => copy.id)),
  );
  let shown = $state(untrack(() => data.sheets.find(isMarked)?.copy.id ?? data.sheets[0]?.copy.id));
  const sheet = $derived(data.sheets.find(({ copy }) => copy.id === shown));
  const some = $derived(data.sheets.filter(({ copy }) => chosen.has(copy.id)));
  const choose = (which: (one: HandBackSheet) => boolean) => {
    chosen.clear();
    for (const one of data.sheets) if (which(one)) chosen.add(one.copy.id);
  };
  const isWith = ({ copy }: HandBackSheet) => stateOf(copy.facts) !== 'handed back';
  /** Those that would go back without points, though the assignment counts some. */
  const without = $derived(
    data.most === null ? 0 : some.filter(({ copy }) => copy.points === null).length,
  );

  let done: number | null = $state(null);
  let sentence = $state('');
  let says = $state('');
  async function handBack() {
    done = 0;
    says = '';
    const ids = some.map(({ copy }) => copy.id);
    sentence = (await handBackKept(ids, (count) => (done = count))) ?? '';
    says = `${counted(done, 'copy is', 'copies are')} handed back.`;
    done = null;
    await readAgain('uncia:hand-back');
    choose(isMarked);
  }

  let printing = $state(false);
  async function printAll() {
    printing = true;
    await tick();
    // Pictures and drawings come a moment later.
    await Promise.all([...document.images].map((image) => image.decode().catch(() => undefined)));
    print();
    printing = false;
  }
</script>

<div class="flex min-h-0 flex-1 max-lg:flex-col max-lg:overflow-auto print:block">
  <aside
    class="flex w-72 shrink-0 flex-col border-r border-rule bg-sheet max-lg:w-full print:hidden"
    aria-label="Copies to hand back"
  >
    <div class="flex flex-wrap gap-1.5 px-3 py-2">
      <button class="act act-small" onclick={() => choose(isMarked)}>Those marked</button>
      <button class="act act-small" onclick={() => choose(isWith)}>All</button>
      <button class="act act-small act-plain" onclick={() => chosen.clear()}>None</button>
    </div>
    <ul class="min-h-0 flex-1 overflow-auto max-lg:max-h-52">
      {#each data.sheets as one (one.copy.id)}
        {@const id = one.copy.id}
        <li
          class={[
            'flex items-center gap-2 border-l-3 px-2.5 py-1',
            id === shown ? 'border-ice bg-ice-pale' : 'border-transparent',
          ]}
        >
          <input
            type="checkbox"
            aria-label="Hand back {one.names.join(', ')}"
            checked={chosen.has(id)}
            onchange={() => (chosen.has(id) ? chosen.delete(id) : chosen.add(id))}
          />
          <button
            class="flex min-w-0 flex-1 gap-2 text-left"
            aria-pressed={id === shown}
            onclick={() => (shown = id)}
          >
            <span class="min-w-0 flex-1 truncate">{one.names.join(', ')}</span>
            <span class="text-sm text-ink2"
              >{stateOf(one.copy.facts) === 'handed back' && !isBehind(one.copy)
                ? 'back'
                : one.copy.points === null
                  ? 'no points'
                  : writePoints(one.copy.points)}</span
            >
          </button>
        </li>
      {:else}<li class="px-3 py-2 text-ink2">Nothing has been handed in yet.</li>{/each}
    </ul>
    <div class="border-t border-rule px-3 py-3">
      {#if sentence}<p class="trouble mb-2" role="alert">{sentence}</p>{/if}
      {#if says}<p class="mb-2 text-sm text-ink2" role="status">{says}</p>{/if}
      {#if without > 0}<p class="mb-2 text-sm">
          {counted(without, 'of them has', 'of them have')} no points yet.
        </p>{/if}
      <div class="flex flex-wrap gap-2">
        <button
          class="act act-main"
          disabled={some.length === 0 || done !== null}
          onclick={handBack}
          >{done === null
            ? `Hand back ${some.length}`
            : `${done} of ${some.length} handed back`}</button
        >
        <button class="act" disabled={some.length === 0} onclick={printAll}
          >Print {some.length}</button
        >
      </div>
    </div>
  </aside>
  <main class="min-w-0 flex-1 overflow-auto px-5 py-4 max-lg:overflow-visible print:hidden">
    <h1 class="mb-3 text-lg font-bold">
      {sheet ? `What ${sheet.names.join(' and ')} will see` : 'Hand back'}
    </h1>
    {#if sheet}{#key shown}<BackSheet
          {sheet}
          title={data.title}
          most={data.most}
          now={data.now}
          timeZone={data.timeZone}
        />{/key}{/if}
  </main>
  {#if printing}<div class="hidden print:block">
      {#each some as one (one.copy.id)}<div class="break-after-page">
          <BackSheet
            sheet={one}
            title={data.title}
            most={data.most}
            now={data.now}
            timeZone={data.timeZone}
          />
        </div>{/each}
    </div>{/if}
</div>
