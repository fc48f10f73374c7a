<script lang="ts">
  import { renderSVG } from 'uqr';
  import { writeCover } from '$core/collecting/cuts';
  import { counted } from '$core/lists/counted';

  let { data } = $props();
  const sheets = $derived(
    data.students.map((student) => ({
      ...student,
      code: `data:image/svg+xml,${encodeURIComponent(
        renderSVG(writeCover(data.assignment, student.id), { ecc: 'M', border: 2 }),
      )}`,
    })),
  );
</script>

<main class="min-w-0 flex-1 overflow-auto px-5 py-3 print:overflow-visible print:p-0">
  <div class="print:hidden">
    <h1 class="text-2xl font-bold">Cover sheets · {data.title}</h1>
    <p class="mt-1 max-w-3xl text-ink2">
      Lay each student’s cover sheet on their paper and scan the whole stack in one go: it is cut by
      these sheets, whatever order it lies in. They are {counted(sheets.length, 'sheet')}, A4 or
      Letter.
    </p>
    <p class="mt-3">
      <button class="act act-main" disabled={sheets.length === 0} onclick={() => print()}
        >Print {counted(sheets.length, 'sheet')}</button
      >
    </p>
  </div>
  <ol class="mt-4 flex flex-wrap gap-4 print:mt-0 print:block">
    {#each sheets as { id, given, family, code } (id)}
      <li
        class="flex w-56 flex-col border border-rule bg-sheet p-4 print:h-[96vh] print:w-full print:break-after-page print:items-center print:justify-center print:border-0 print:bg-transparent"
      >
        <p class="text-lg font-bold wrap-anywhere print:text-4xl">{given} {family}</p>
        <p class="text-sm text-ink2 print:text-xl print:text-black">
          {data.klass.name}
          {data.klass.title} · {data.title}
        </p>
        <img
          class="mt-3 size-40 print:size-[9cm]"
          src={code}
          alt="Code of {given} {family}’s sheet"
        />
      </li>
    {/each}
  </ol>
  {#if sheets.length === 0}<p class="mt-4 text-ink2">There is nobody in this class yet.</p>{/if}
</main>
