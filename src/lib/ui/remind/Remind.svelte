<script lang="ts">
  import { onMount } from 'svelte';
  import { counted } from '$core/lists/counted';
  import { grouped } from '$core/lists/grouped';
  import { listed } from '$core/lists/listed';
  import { fetchJson, send } from '$ui/send';
  import Sheet from '$ui/shell/Sheet.svelte';
  import { confirmDone } from '$ui/shell/toasts.svelte';
  import type { CellToRemind } from './cell-to-remind';

  interface Props {
    /** Whom it is about, and of what. */
    cells: readonly CellToRemind[];
    close: () => void;
  }
  let { cells, close }: Props = $props();

  /** Who was reminded today already; null until that is known. */
  let reminded = $state.raw<readonly { assignment: string; student: string }[] | null>(null);
  let words = $state('');
  let sending = $state(false);
  let trouble = $state('');
  onMount(async () => {
    try {
      const known = await Promise.all(
        [...grouped(cells, (cell) => cell.class).keys()].map((klass) =>
          fetchJson<NonNullable<typeof reminded>>(`/classes/${klass}/remind`),
        ),
      );
      reminded = known.flat();
    } catch (error) {
      trouble = error instanceof Error ? error.message : '';
    }
  });
  const isReminded = (cell: CellToRemind) =>
    reminded?.some((one) => one.assignment === cell.assignment && one.student === cell.student) ??
    false;
  const fresh = $derived(cells.filter((cell) => !isReminded(cell)));
  const already = $derived(cells.filter(isReminded));
  /** An assignment may have several pages; each student is reminded of it once. */
  const namesOf = (some: readonly CellToRemind[]) => [...new Set(some.map(({ name }) => name))];
  const byTitle = (some: readonly CellToRemind[]) => [
    ...grouped(some, ({ assignment }) => assignment),
  ];
  const people = $derived(new Set(fresh.map(({ student }) => student)).size);

  async function remind(event: SubmitEvent) {
    event.preventDefault();
    sending = true;
    trouble = '';
    try {
      let told = 0;
      for (const [klass, some] of grouped(fresh, (cell) => cell.class)) {
        const { reminded } = await send<{ reminded: number }>(`/classes/${klass}/remind`, {
          cells: some.map(({ copy, student }) => ({ copy, student })),
          words,
        });
        told += reminded;
      }
      close();
      await confirmDone(`${counted(told, 'reminder is', 'reminders are')} sent.`);
    } catch (error) {
      trouble = `${error instanceof Error ? error.message : ''} What you typed is still here.`;
    } finally {
      sending = false;
    }
  }
</script>

<Sheet
  bind:open={() => true, (open) => !open && close()}
  title={people > 0 ? `Remind ${counted(people, 'student')}` : 'Remind'}
>
  <form class="mt-3 grid gap-3" onsubmit={remind}>
    {#if reminded === null && !trouble}
      <p class="text-ink2" role="status">Looking who was reminded today …</p>
    {:else}
      <div class="grid max-h-72 gap-2 overflow-auto">
        {#each byTitle(fresh) as [assignment, some] (assignment)}
          <p><strong>{some[0]?.title}</strong>: {listed(namesOf(some))}.</p>
        {:else}<p>Everybody you chose was reminded today.</p>{/each}
        {#each fresh.length > 0 ? byTitle(already) : [] as [assignment, some] (assignment)}
          <p class="text-sm text-ink2">
            Not again today: {listed(namesOf(some))}, of {some[0]?.title}.
          </p>
        {/each}
      </div>
      {#if fresh.length > 0}
        <p class="text-sm text-ink2">
          Each gets a message that says what it is, when it is due for them and that you ask for it.
        </p>
        <label
          ><span class="label">A word with it, if you like</span><textarea
            class="field"
            rows="2"
            maxlength="500"
            bind:value={words}></textarea></label
        >
      {/if}
    {/if}
    {#if trouble}<p class="trouble" role="alert">{trouble}</p>{/if}
    <div class="flex justify-end gap-2">
      <button type="button" class="act" onclick={close}
        >{fresh.length > 0 ? 'Cancel' : 'Close'}</button
      >
      {#if fresh.length > 0}<button class="act act-main" disabled={sending || reminded === null}
          >Remind</button
        >{/if}
    </div>
  </form>
</Sheet>
