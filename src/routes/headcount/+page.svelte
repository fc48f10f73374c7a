<script lang="ts">
  import { untrack } from 'svelte';
  import { CAUSES, gapKey } from '$core/headcount/gap';
  import { CAUSE_SAYS, sayBriefly } from '$core/headcount/say-gap';
  import { counted } from '$core/lists/counted';
  import { listed } from '$core/lists/listed';

  let { data } = $props();
  /** Part of a student's name. */
  let who = $state(untrack(() => data.who));
  const nameOf = (students: readonly string[]) =>
    listed(students.map((id) => data.names[id] ?? ''));
  const isMeant = (students: readonly string[]) =>
    nameOf(students).toLocaleLowerCase().includes(who.trim().toLocaleLowerCase());
  const classes = $derived(
    data.classes.map((one) => ({ ...one, gaps: one.gaps.filter((gap) => isMeant(gap.students)) })),
  );
  const total = $derived(classes.reduce((sum, { gaps }) => sum + gaps.length, 0));
  const causesOf = (gaps: (typeof classes)[number]['gaps'], assignment: string) =>
    CAUSES.flatMap((cause) => {
      const count = gaps.filter((gap) => gap.assignment === assignment && gap.cause === cause);
      return count.length > 0 ? [`${CAUSE_SAYS[cause].toLowerCase()}: ${count.length}`] : [];
    }).join(', ');
</script>

<main class="mx-auto w-full max-w-5xl px-4 py-5">
  <div class="flex flex-wrap items-end gap-x-6 gap-y-3">
    <div class="flex-1">
      <h1 class="text-xl font-bold">Headcount</h1>
      <p class="text-ink2" aria-live="polite">
        {total === 0
          ? 'Every copy that should be there is, with its work.'
          : `${counted(total, 'gap')} in ${counted(classes.filter(({ gaps }) => gaps.length > 0).length, 'class', 'classes')}.`}
      </p>
    </div>
    <label
      ><span class="label">Student</span>
      <input class="field" type="search" bind:value={who} placeholder="all" /></label
    >
  </div>
  {#each classes as { id, name, title, assignments, gaps } (id)}
    <section class="mt-6" aria-labelledby="class-{id}">
      <h2 id="class-{id}" class="font-bold">
        <a class="text-ink hover:underline" href="/classes/{id}?lens=gaps">{name} {title}</a>
        <span class="ml-1 text-sm font-normal text-ink2">{counted(gaps.length, 'gap')}</span>
      </h2>
      {#if assignments.length === 0}
        <p class="mt-1 text-ink2">Nothing is handed out in it yet.</p>
      {:else}
        <div class="mt-2 overflow-x-auto border border-rule bg-sheet">
          <table class="w-full min-w-160 table-fixed text-left">
            <thead class="text-sm text-ink2">
              <tr>
                <th class="w-2/5 px-3 py-1.5 font-normal">Assignment</th>
                <th class="w-32 px-3 py-1.5 text-right font-normal">should be there</th>
                <th class="w-24 px-3 py-1.5 text-right font-normal">are there</th>
                <th class="px-3 py-1.5 font-normal">Gaps</th>
              </tr>
            </thead>
            <tbody>
              {#each assignments as one (one.id)}
                {@const says = causesOf(gaps, one.id)}
                <tr class="border-t border-rule">
                  <th class="px-3 py-1.5 font-bold wrap-anywhere" scope="row">{one.title}</th>
                  <td class="px-3 py-1.5 text-right">{one.expected}</td>
                  <td class={['px-3 py-1.5 text-right', one.there < one.expected && 'text-rust']}
                    >{one.there}</td
                  >
                  <td class="px-3 py-1.5 text-sm">
                    {#if says}<a class="underline" href="/classes/{id}?lens=gaps&of={one.id}"
                        >{says}<span class="sr-only">: {one.title}, {name}</span></a
                      >{:else}<span class="text-ink2">none</span>{/if}
                  </td>
                </tr>
              {/each}
            </tbody>
          </table>
        </div>
        {#if who.trim() && gaps.length > 0}
          <ul class="mt-2 border border-rule bg-sheet text-sm" aria-label="Gaps of {who}, {name}">
            {#each gaps as gap (gapKey(gap))}
              <li class="border-b border-rule px-3 py-1.5 last:border-b-0">
                <strong>{nameOf(gap.students)}</strong>,
                {assignments.find((one) => one.id === gap.assignment)?.title}:
                {CAUSE_SAYS[gap.cause].toLowerCase()}
                <span class="text-ink2">{sayBriefly(gap, data.timeZone)}</span>
              </li>
            {/each}
          </ul>
        {/if}
      {/if}
    </section>
  {:else}
    <p class="notice mt-6 max-w-xl">
      You lead no class in this term. What is missing in a class stands here once something is
      handed out in it.
    </p>
  {/each}
</main>
