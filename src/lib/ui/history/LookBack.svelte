<script lang="ts">
  import { onDestroy, onMount, untrack } from 'svelte';
  import { sayClock, sayTime, when } from '$core/calendar/say-time';
  import { sayKept, type KeptVersion } from '$core/history/kept-versions';
  import { counted } from '$core/lists/counted';
  import Choice from '$ui/fields/Choice.svelte';
  import PlainPage from '$ui/page/PlainPage.svelte';
  import { fetchJson, send } from '$ui/send';
  import { confirmDone } from '$ui/shell/toasts.svelte';
  import type { PageHistory } from '$core/history/page-history';
  import { Moments, type Moment } from './moments';
  import WhoWrote from './WhoWrote.svelte';
  import WorkLine from './WorkLine.svelte';

  interface Props {
    /** Where its history is asked for: `/pages/…` of a copy, `/editor/…` of an original. */
    at: string;
    /** What has to be saved before the page is put back. */
    flush?: () => Promise<unknown>;
    close: () => void;
  }
  let { at, flush, close }: Props = $props();

  let history = $state.raw<PageHistory | null>(null);
  let moment = $state.raw<Moment | null>(null);
  let version = $state(0);
  let name = $state('');
  let trouble = $state('');
  let busy = $state(false);
  let asks: 'page' | 'who' = $state('page');
  let moments = untrack(() => new Moments(at));
  onDestroy(() => moments.close());
  onMount(() => void read());

  const say = (error: unknown) => (trouble = error instanceof Error ? error.message : '');
  const nameOf = (id: string | null) => (id && history?.names[id]) || '';
  const sitting = $derived(
    history?.line.findLast(({ first, last }) => first <= version && version <= last) ?? null,
  );
  const keptHere = $derived(history?.kept.filter((one) => one.version === version) ?? []);
  const begins = $derived(history?.kept.find((one) => one.version === 0)?.cause ?? 'begun');
  const isNow = $derived(version === history?.version);

  async function read() {
    try {
      const found = await fetchJson<PageHistory>(`${at}/history`);
      moments.close();
      moments = new Moments(at);
      history = found;
      await show(found.version);
    } catch (error) {
      say(error);
    }
  }
  async function show(wanted: number) {
    version = wanted;
    try {
      moment = (await moments.at(wanted)) ?? moment;
      trouble = '';
    } catch (error) {
      say(error);
    }
  }
  async function ask(body: object, says: string) {
    busy = true;
    try {
      await flush?.();
      await send(`${at}/history`, body);
      await read();
      await confirmDone(says);
    } catch (error) {
      say(error);
    } finally {
      busy = false;
    }
  }
  const putBack = () =>
    ask(
      { move: 'put back', version },
      'The page is put back. How it was before is kept on the line.',
    );
  async function giveName(event: SubmitEvent) {
    event.preventDefault();
    const named = version;
    await ask({ move: 'name', version: named, name }, 'The version is named.');
    if (trouble) return;
    name = '';
    await show(named);
  }

  const sayOf = ({ from, to, author, added, removed }: PageHistory['line'][number], zone: string) =>
    [
      `${nameOf(author)}, ${sayTime(from, zone)}${to - from < 60_000 ? '' : ` to ${sayClock(to, zone)}`}`,
      `${counted(added, 'character')} added, ${removed} removed`,
    ].join(': ');
  const sayKeptOf = (kept: KeptVersion, zone: string) =>
    [sayKept(kept), nameOf(kept.by), when(kept.at, Date.now(), zone)].filter(Boolean).join(', ');
</script>

{#if trouble}<p class="trouble mt-2" role="alert">{trouble}</p>{/if}
{#if history}
  {@const zone = history.timeZone}
  <WorkLine
    line={history.line}
    kept={history.kept}
    newest={history.version}
    {version}
    says={sitting ? sayOf(sitting, zone) : `As it was ${begins}`}
    nameOf={(id) => nameOf(id)}
    onchange={show}
  />
  <p class="mt-1 text-sm text-ink2" aria-live="polite">
    {#if version === 0}As it was {begins}.{:else if sitting}{sayOf(sitting, zone)}.{/if}
  </p>
  <ul class="mt-2 flex flex-wrap gap-1.5" aria-label="Kept versions">
    {#each history.kept as kept, index (index)}
      <li>
        <button
          class={['act act-small', kept.version === version && 'bg-ice-pale']}
          aria-pressed={kept.version === version}
          onclick={() => show(kept.version)}>{sayKeptOf(kept, zone)}</button
        >
      </li>
    {/each}
    <li>
      <button
        class={['act act-small', isNow && 'bg-ice-pale']}
        aria-pressed={isNow}
        onclick={() => history && show(history.version)}>now</button
      >
    </li>
  </ul>
  {#if moment}
    <div
      class="mt-3 rounded-lg border border-dashed border-ice p-4"
      aria-busy={moment.version !== version}
    >
      <div class="flex flex-wrap items-center gap-2 border-b border-rule pb-2 text-sm">
        <p class="min-w-0 flex-1 font-bold">
          {isNow
            ? 'As it stands now'
            : `As it stood ${moment.made ? sayTime(moment.made.at, zone) : `when it was ${begins}`}`}
        </p>
        <Choice
          label="What is shown"
          options={[
            ['page', 'The page'],
            ['who', 'Who wrote what'],
          ]}
          bind:value={asks}
        />
        {#if history.mayPutBack && !isNow}
          <form class="flex gap-1.5" onsubmit={giveName}>
            <input
              class="field w-44 py-1"
              aria-label="Name of this version"
              placeholder={keptHere.length > 0 ? 'Another name' : 'Name this version'}
              maxlength="100"
              bind:value={name}
            />
            {#if name.trim()}<button class="act act-small" disabled={busy}>Save name</button>{/if}
          </form>
          <button class="act act-small act-main" disabled={busy} onclick={putBack}
            >Put this back</button
          >
        {/if}
        <button class="act act-small" onclick={close}>Close</button>
      </div>
      {#if asks === 'who'}
        <WhoWrote {history} {moment} now={Date.now()} />
      {:else}
        <div class="mt-3"><PlainPage doc={moment.doc} label="The page at this moment" /></div>
      {/if}
    </div>
  {/if}
{:else if !trouble}
  <p class="mt-2 text-sm text-ink2" role="status">Reading its history …</p>
{/if}
