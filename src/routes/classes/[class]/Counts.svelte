<script lang="ts">
  import type { GapView } from '$core/headcount/gap';
  import { counted } from '$core/lists/counted';
  import { giveCopies } from '$ui/give-copies';

  interface Props {
    counts: readonly { id: string; title: string; expected: number; there: number }[];
    gaps: readonly GapView[];
    klass: string;
    mayMend: boolean;
    nameOf: (students: readonly string[]) => string;
    /** Done, with what undoes it. */
    mended: (says: string, undo: () => Promise<unknown>) => void;
  }
  /** The headcount in a sentence each, of the assignments that have gaps, with the remedy for what many lack. */
  let { counts, gaps, klass, mayMend, nameOf, mended }: Props = $props();
  let trouble = $state('');

  const short = $derived(
    counts.flatMap((count) => {
      const theirs = gaps.filter(({ assignment }) => assignment === count.id);
      const emptied = theirs.filter(({ cause }) => cause === 'emptied').length;
      const lacking = theirs.filter(({ cause }) => cause !== 'emptied');
      return theirs.length > 0 ? [{ ...count, emptied, lacking }] : [];
    }),
  );

  /** Who lacks copies of several assignments, such as somebody who joined: all of them at once. */
  const people = $derived(
    [...new Set(short.flatMap(({ lacking }) => lacking.flatMap((gap) => gap.students)))].flatMap(
      (id) => {
        const theirs = short.flatMap(({ lacking }) =>
          lacking.filter((gap) => gap.students.includes(id)),
        );
        const assignments = [...new Set(theirs.map(({ assignment }) => assignment))];
        return assignments.length > 1 ? [{ id, assignments }] : [];
      },
    ),
  );

  async function give(assignments: readonly string[], students: readonly string[]) {
    const { undo, trouble: fault } = await giveCopies(
      assignments.map((assignment) => ({ class: klass, assignment, students })),
    );
    trouble = fault;
    if (undo) mended('What was missing is there now.', undo);
  }

  /** "23 copies should be there, 22 are, 1 of them has lost its work". */
  function say({ expected, there, emptied, lacking }: (typeof short)[number]): string {
    const places = lacking.filter(({ cause }) => cause === 'never made').length;
    const parts = [
      `${counted(expected, 'copy', 'copies')} should be there, ${there} ${there === 1 ? 'is' : 'are'}`,
    ];
    if (expected === there && places > 0)
      parts.push(`${counted(places, 'student')} ${places === 1 ? 'has' : 'have'} no part in them`);
    if (emptied > 0) parts.push(`${emptied} of them lost ${emptied === 1 ? 'its' : 'their'} work`);
    return parts.join(', ');
  }
</script>

{#if trouble}<p class="trouble mb-2.5" role="alert">{trouble}</p>{/if}
{#if short.length > 0}
  <ul class="mb-2.5 max-h-64 overflow-auto border border-rule bg-sheet" aria-label="Headcount">
    {#each mayMend ? people : [] as { id, assignments } (id)}
      <li class="flex flex-wrap items-center gap-3 border-b border-rule px-3 py-1.5">
        <span class="min-w-0 flex-1"
          ><strong>{nameOf([id])}</strong>
          <span class="text-sm text-ink2">lacks copies of {assignments.length} assignments</span
          ></span
        >
        <button class="act act-small act-main" onclick={() => give(assignments, [id])}
          >Give all {assignments.length}<span class="sr-only"> to {nameOf([id])}</span></button
        >
      </li>
    {/each}
    {#each short as count (count.id)}
      {@const { id, title, lacking } = count}
      <li
        class="flex flex-wrap items-center gap-3 border-b border-rule px-3 py-1.5 last:border-b-0"
      >
        <span class="min-w-0 flex-1 wrap-anywhere"
          ><strong>{title}</strong> <span class="text-sm text-ink2">{say(count)}</span></span
        >
        {#if mayMend && lacking.length > 0}
          <button
            class="act act-small"
            onclick={() => give([id], [...new Set(lacking.flatMap((gap) => gap.students))])}
            >{lacking.length === 1
              ? 'Give the missing one'
              : `Give all ${lacking.length} missing`}<span class="sr-only">: {title}</span></button
          >
        {/if}
      </li>
    {/each}
  </ul>
{/if}
