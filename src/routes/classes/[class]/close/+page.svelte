<script lang="ts">
  import { untrack } from 'svelte';
  import { dayOf } from '$core/calendar/local-time';
  import { proposeReadUntil } from '$core/closing/read-until';
  import type { OpenMatter } from '$core/closing/open-matters';
  import { MATTERS, sayMatter } from '$core/closing/say-matter';
  import { sayDate } from '$core/calendar/say-time';
  import { counted } from '$core/lists/counted';
  import { aboutClasses, aboutMargins, enhance, readAgain, refreshOnNews } from '$ui/refresh';
  import FormButton from '$ui/shell/FormButton.svelte';
  import { handBackKept } from '$ui/marking/hand-back-kept';
  import ReadUntil from './ReadUntil.svelte';

  let { data, form } = $props();
  const klass = $derived(data.klass);
  const at = $derived(`/classes/${klass.id}`);
  const aboutClass = aboutClasses(() => [klass.id]);
  refreshOnNews(
    'uncia:closing',
    (heard) =>
      aboutClass(heard) ||
      aboutMargins(heard) ||
      (heard !== 'resync' &&
        heard.some((one) => one.kind === 'copy' && one.row.class === klass.id)),
  );
  const today = untrack(() => dayOf(data.now, data.klass.time_zone));
  let until = $state(untrack(() => proposeReadUntil(today, data.term.ends)));
  let trouble = $state('');
  let back = $state<string | null>(null);

  const keyOf = (matter: OpenMatter) =>
    'assignment' in matter ? matter.assignment : 'id' in matter ? matter.id : matter.person;
  const groups = $derived(
    [...new Set(data.matters.map(({ kind }) => kind))].map((kind) => ({
      kind,
      ...MATTERS[kind],
      matters: data.matters.filter((matter) => matter.kind === kind),
    })),
  );
  const titleOf = (matter: OpenMatter) =>
    matter.kind === 'asked to join' ? matter.name : matter.title;
  /** The link that leads to where a matter is settled. */
  function settledAt(matter: OpenMatter): { to: string; button: string } {
    switch (matter.kind) {
      case 'to mark':
        return { to: `${at}/marking/${matter.copies[0]}`, button: 'Mark' };
      case 'kept back':
        return { to: `${at}/marking/${matter.copies[0]}`, button: 'Look' };
      case 'written in again':
      case 'not handed in':
        return { to: `${at}/assignments/${matter.assignment}`, button: 'See who' };
      case 'not collected':
        return { to: `${at}/assignments/${matter.assignment}/collecting`, button: 'Collect' };
      case 'gap':
        return { to: `${at}?lens=gaps`, button: 'Mend' };
      case 'not handed out':
        return { to: `${at}/hand-out?draft=${matter.id}`, button: 'Finish' };
      case 'asked to join':
        return { to: `${at}/roster`, button: 'Roster' };
    }
  }
  async function handBack(assignment: string, copies: readonly string[]) {
    back = assignment;
    trouble = (await handBackKept(copies)) ?? '';
    back = null;
    await readAgain('uncia:closing');
  }
  const stored = $derived(data.units.filter((unit) => unit.stored).length);
  /** Units that are ticked. */
  let chosen: string[] = $state([]);
  const move = () => () => async (answer: { update: () => Promise<void> }) => {
    await answer.update();
    chosen = [];
  };
</script>

<main class="min-w-0 flex-1 overflow-auto px-5 py-5">
  <div class="mx-auto max-w-4xl">
    <h1 class="text-2xl font-bold">Close the term of {klass.name}</h1>
    <p class="text-ink2">
      {data.term.name} ends on {sayDate(data.term.ends, { weekday: true, year: true })}. Settle what
      you want to settle; what you leave stays as it is, and nothing is lost.
    </p>
    {#if form?.sentence || trouble}<p class="trouble mt-3" role="alert">
        {form?.sentence || trouble}
      </p>{/if}

    <section class="mt-6" aria-labelledby="open">
      <h2 id="open" class="text-lg font-bold">1 · What is still open</h2>
      {#if data.matters.length === 0}<p class="notice mt-2">
          Everything is settled: all work is handed back, and nothing waits to be handed out.
        </p>{:else}
        {#each groups as { kind, title, left, matters } (kind)}
          <h3 class="mt-4 font-bold">{title}</h3>
          <p class="text-sm text-ink2">Left as they are, {left}.</p>
          <ul class="mt-1 border border-rule bg-sheet">
            {#each matters as matter (keyOf(matter))}
              {@const { to, button } = settledAt(matter)}
              <li
                class="flex flex-wrap items-center gap-x-4 gap-y-2 border-b border-rule px-4 py-1.5 last:border-b-0"
              >
                <strong class="min-w-40 flex-1 wrap-anywhere">{titleOf(matter)}</strong>
                <span class="text-sm text-ink2">{sayMatter(matter, klass.time_zone)}</span>
                <a class="act act-small" href={to} aria-label="{button}: {titleOf(matter)}"
                  >{button}</a
                >
                {#if matter.kind === 'kept back'}<button
                    class="act act-small act-main"
                    disabled={back !== null}
                    onclick={() => handBack(matter.assignment, matter.copies)}
                    aria-label="Hand back {matter.copies.length}: {matter.title}"
                    >{back === matter.assignment
                      ? 'Handing back …'
                      : `Hand back ${matter.copies.length}`}</button
                  >{:else if matter.kind === 'not handed out'}<FormButton
                    label="Remove"
                    action="dropDraft"
                    fields={{ draft: matter.id }}
                    look="act act-small"
                  />{/if}
              </li>
            {/each}
          </ul>
        {/each}
      {/if}
    </section>

    <section class="mt-8" aria-labelledby="units">
      <h2 id="units" class="text-lg font-bold">2 · Units out of students’ sight</h2>
      <p class="text-ink2">
        What lies in a unit in the cupboard is for staff only: its pages, its assignments, its
        copies. Points that were handed back go on counting, and students read their own work again
        once the class is archived.
      </p>
      {#if data.units.length === 0}<p class="mt-2 text-ink2">This class has no units.</p>{:else}
        <form method="POST" action="?/store" use:enhance={move()}>
          <ul class="mt-2 border border-rule bg-sheet">
            {#each data.units as unit (unit.id)}
              <li class="border-b border-rule last:border-b-0">
                <label class="flex items-center gap-3 px-4 py-2">
                  <input type="checkbox" name="unit" value={unit.id} bind:group={chosen} />
                  <span class="flex-1 font-bold">{unit.title}</span>
                  <span class="text-sm text-ink2"
                    >{counted(unit.assignments, 'assignment')} · {counted(unit.pages, 'page')}</span
                  >
                  <span class="w-32 text-right text-sm {unit.stored ? 'text-plum' : 'text-ink2'}"
                    >{unit.stored ? 'in the cupboard' : 'in sight'}</span
                  >
                </label>
              </li>
            {/each}
          </ul>
          <div class="mt-2 flex gap-2">
            <button class="act" name="stored" value="true" disabled={chosen.length === 0}
              >Into the cupboard</button
            >
            {#if stored > 0}<button
                class="act"
                name="stored"
                value="false"
                disabled={chosen.length === 0}>Out of the cupboard</button
              >{/if}
          </div>
        </form>
      {/if}
    </section>

    <section class="mt-8 mb-10" aria-labelledby="archive">
      <h2 id="archive" class="text-lg font-bold">3 · Archive {klass.name}</h2>
      <p class="text-ink2">
        Then nobody changes anything in it, you included. Everything can be read and searched, and
        carried over into the next class. You can open it again.
      </p>
      <form method="POST" action="?/archive" use:enhance class="mt-3">
        <ReadUntil bind:until timeZone={klass.time_zone} />
        <button class="act act-main mt-4"
          >{data.matters.length === 0
            ? `Archive ${klass.name}`
            : `Archive ${klass.name}, and leave ${counted(data.matters.length, 'thing')} as ${data.matters.length === 1 ? 'it is' : 'they are'}`}</button
        >
      </form>
    </section>
  </div>
</main>
