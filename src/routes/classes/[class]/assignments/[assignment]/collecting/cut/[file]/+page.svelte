<script lang="ts">
  import type { PDFDocumentProxy } from 'pdfjs-dist';
  import { onMount } from 'svelte';
  import { goto } from '$app/navigation';
  import { byCovers, byRoster, cutsOf, readCover, type Sheet } from '$core/collecting/cuts';
  import { counted } from '$core/lists/counted';
  import Bar from '$ui/fields/Bar.svelte';
  import Pick from '$ui/fields/Pick.svelte';
  import { openPdf } from '$ui/pdf/open-pdf';
  import PdfSheet from '$ui/pdf/PdfSheet.svelte';
  import { readCodes } from '$ui/pdf/read-codes';
  import { send } from '$ui/send';

  let { data } = $props();

  let pdf = $state.raw<PDFDocumentProxy | null>(null);
  let trouble = $state('');
  let busy = $state(false);
  /** What is said of each sheet, in the order of the stack. */
  let sheets: Sheet[] = $state([]);
  /** Whose cover sheet each is, as far as they were looked at. */
  let covers: (string | null)[] = $state([]);
  let perStudent = $state(1);
  /** Whether somebody has cut it by hand: what is found later changes nothing then. */
  let isTouched = $state(false);

  onMount(() => {
    const stop = new AbortController();
    const read = async () => {
      const opened = await openPdf(`${data.at}/files/${data.file.id}`);
      if (stop.signal.aborted) return void opened.destroy();
      sheets = byCovers(Array.from({ length: opened.numPages }, () => null));
      pdf = opened;
      await readCodes(
        opened,
        (_page, code) => {
          const student = code === null ? null : readCover(code, data.assignment);
          covers.push(data.students.some(({ id }) => id === student) ? student : null);
          if (!isTouched && student !== null) sheets = byCovers(all(covers));
        },
        stop.signal,
      );
    };
    read().catch((error: unknown) => {
      trouble = error instanceof Error ? error.message : '';
    });
    return () => {
      stop.abort();
      void pdf?.destroy();
    };
  });

  const count = $derived(pdf?.numPages ?? 0);
  /** With those that were not looked at yet. */
  const all = (some: readonly (string | null)[]) =>
    Array.from({ length: count }, (_, index) => some[index] ?? null);
  const found = $derived(covers.filter((student) => student !== null).length);
  const cuts = $derived(cutsOf(sheets));
  const given = $derived(cuts.filter(({ student }) => student !== null));
  const nobodys = $derived(
    cuts.flatMap(({ student, pages }) => (student === null ? pages : [])).length,
  );
  const left = $derived(sheets.filter(({ out }) => out).length);
  const options = $derived(
    data.students.map(({ id, family, given: first }) => ({
      value: id,
      label: `${family}, ${first}`,
    })),
  );
  const nameOf = (id: string | null) =>
    options.find(({ value }) => value === id)?.label ?? 'nobody yet';
  /** Whose each sheet is now. */
  const whose = $derived(
    sheets.map((_, index) => cuts.find(({ pages }) => pages.includes(index + 1))?.student ?? null),
  );

  function change(index: number, to: Partial<Sheet>) {
    isTouched = true;
    sheets = sheets.map((sheet, at) => (at === index ? { ...sheet, ...to } : sheet));
  }
  function cutBy(next: Sheet[]) {
    isTouched = true;
    sheets = next;
  }
  async function cut() {
    busy = true;
    trouble = '';
    try {
      await send(data.at, { move: 'cut', file: data.file.id, cuts });
      await goto(data.at);
    } catch (error) {
      trouble = error instanceof Error ? error.message : '';
      busy = false;
    }
  }
</script>

<main class="flex min-h-0 min-w-0 flex-1 flex-col">
  <div class="border-b border-rule px-5 py-3">
    <h1 class="text-2xl font-bold wrap-anywhere">Cut <bdi>{data.file.path}</bdi> to students</h1>
    {#if trouble}<p class="trouble mt-2" role="alert">{trouble}</p>{/if}
    {#if pdf}
      <div class="mt-2 flex flex-wrap items-end gap-x-5 gap-y-2">
        <button class="act" disabled={found === 0} onclick={() => cutBy(byCovers(all(covers)))}
          >By cover sheets ({found} found)</button
        >
        <form
          class="flex items-end gap-2"
          onsubmit={(event) => {
            event.preventDefault();
            cutBy(
              byRoster(
                count,
                perStudent,
                data.students.map(({ id }) => id),
              ),
            );
          }}
        >
          <label
            ><span class="label">Sheets for each</span><input
              class="field w-24"
              type="number"
              min="1"
              max={count}
              required
              bind:value={perStudent}
            /></label
          >
          <button class="act">In the order of the roster</button>
        </form>
        <p class="min-w-60 flex-1 text-sm text-ink2" role="status">
          {#if covers.length < count}Looking for cover sheets: {covers.length} of {counted(
              count,
              'sheet',
            )}.{/if}
          {counted(given.length, 'student')}
          {given.length === 1 ? 'gets' : 'get'}
          {counted(
            given.reduce((sum, { pages }) => sum + pages.length, 0),
            'sheet',
          )}{nobodys > 0
            ? `; ${counted(nobodys, 'sheet')} of nobody yet, to decide afterwards`
            : ''}{left > 0 ? `; ${left} left out` : ''}.
        </p>
        <button class="act act-main" disabled={busy || cuts.length === 0} onclick={cut}
          >{busy ? 'Cutting …' : 'Cut the stack'}</button
        >
      </div>
      {#if covers.length < count}<div class="mt-2">
          <Bar label="Sheets that were looked at" done={covers.length} total={count} />
        </div>{/if}
    {:else if !trouble}<p class="mt-2 text-ink2" role="status">Opening …</p>{/if}
  </div>
  {#if pdf}
    <!-- svelte-ignore a11y_no_noninteractive_tabindex (what overflows must be scrolled by keyboard) -->
    <div
      class="min-h-0 flex-1 overflow-auto px-5 py-3"
      tabindex="0"
      role="region"
      aria-label="The stack"
    >
      <ol class="flex flex-wrap gap-3">
        {#each sheets as sheet, index (index)}
          <li
            class={[
              'w-48 border p-2',
              sheet.begins ? 'border-l-4 border-ice' : 'border-rule',
              sheet.out && 'opacity-60',
            ]}
          >
            <p class="truncate text-sm">
              <strong>{index + 1}</strong>
              <span class="text-ink2">{sheet.out ? 'left out' : nameOf(whose[index] ?? null)}</span>
            </p>
            <PdfSheet {pdf} number={index + 1} width={174} label="Sheet {index + 1}" />
            <div class="mt-1 flex flex-wrap gap-1">
              <button
                class="act act-small"
                aria-pressed={sheet.begins}
                onclick={() => change(index, { begins: !sheet.begins, student: null })}
                >Begins<span class="sr-only"> somebody’s work at sheet {index + 1}</span></button
              >
              <button
                class="act act-small act-plain"
                aria-pressed={sheet.out}
                onclick={() => change(index, { out: !sheet.out })}
                >{sheet.out ? 'Keep' : 'Leave out'}<span class="sr-only">
                  sheet {index + 1}</span
                ></button
              >
            </div>
            {#if sheet.begins}<div class="mt-1">
                <Pick
                  label="Whose work begins at sheet {index + 1}?"
                  quiet
                  {options}
                  value={sheet.student ?? ''}
                  placeholder="whose?"
                  onchange={(student) => change(index, { student: student || null })}
                />
              </div>{/if}
          </li>
        {/each}
      </ol>
    </div>
  {/if}
</main>
