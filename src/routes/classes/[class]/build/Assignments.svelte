<script lang="ts">
  import type { BuildPlan, SourceAssignment } from '$core/course/build-plan';
  import { sayTimeOfYear } from '$core/calendar/say-time';
  import { readLocalTime } from '$core/calendar/local-time';
  import { counted } from '$core/lists/counted';
  import { listed } from '$core/lists/listed';

  interface Props {
    assignments: readonly SourceAssignment[];
    /** The ones that come. */
    chosen: readonly string[];
    choose: (assignment: string, comes: boolean) => void;
    /** What each class will have of them. */
    plans: readonly {
      id: string;
      name: string;
      plan: BuildPlan;
      titles: readonly string[];
      slots: readonly unknown[];
    }[];
    /** The class that they come from. */
    from: string;
    timeZone: string;
  }
  let { assignments, chosen, choose, plans, from, timeZone }: Props = $props();

  function sayDue(due: SourceAssignment['due'] | BuildPlan['assignments'][number]['due']): string {
    if (due.kind === 'none') return 'no due time';
    if (due.kind === 'lesson')
      return `at the end of ${due.nth === 1 ? 'the next lesson' : `${counted(due.nth, 'lesson')} later`}`;
    const at = 'at' in due ? due.at : readLocalTime(due.local, timeZone);
    return at === null ? '' : sayTimeOfYear(at, timeZone);
  }
  const draftIn = (plan: BuildPlan, id: string) =>
    plan.assignments.find((one) => one.id === id) ?? null;

  function remarks({ title, chosen: some, losesRubric }: SourceAssignment): string[] {
    const there = plans.filter(({ titles }) => titles.includes(title)).map(({ name }) => name);
    return [
      ...(there.length > 0
        ? [`${listed(there)} already ${there.length === 1 ? 'has' : 'have'} one of this title.`]
        : []),
      ...(some ? ['It was for some students; the draft is for everybody.'] : []),
      ...(losesRubric
        ? ['Its rubric stays behind: it would come into a course that you do not edit.']
        : []),
    ];
  }
</script>

<section class="mt-6" aria-labelledby="drafts">
  <h2 id="drafts" class="font-bold">Assignments, as drafts</h2>
  <p class="text-ink2">
    Nothing goes out before you hand it out. Due times keep their lesson: what was due at the end of
    the 9th is due at the end of the 9th.
  </p>
  <div class="mt-2 overflow-x-auto">
    <table class="w-full border-collapse border border-rule bg-sheet">
      <thead>
        <tr class="border-b-2 border-ink text-left text-sm text-ink2">
          <th scope="col" class="px-3 py-2 font-normal">Assignment</th>
          <th scope="col" class="px-3 py-2 font-normal">Due in {from}</th>
          {#each plans as { id, name } (id)}<th scope="col" class="px-3 py-2 font-normal"
              >Due in {name}</th
            >{/each}
        </tr>
      </thead>
      <tbody>
        {#each assignments as assignment (assignment.id)}
          {@const comes = chosen.includes(assignment.id)}
          <tr class={['border-b border-rule align-top', !comes && 'text-ink2']}>
            <th scope="row" class="px-3 py-2 text-left">
              <label class="flex items-baseline gap-2">
                <input
                  type="checkbox"
                  name="assignment"
                  value={assignment.id}
                  checked={comes}
                  onchange={(event) => choose(assignment.id, event.currentTarget.checked)}
                /><span class="min-w-0 wrap-anywhere">{assignment.title}</span></label
              >
              {#each remarks(assignment) as remark (remark)}<span
                  class="block pl-6 text-sm font-normal text-ink2">{remark}</span
                >{/each}
            </th>
            <td class="px-3 py-2">{sayDue(assignment.due)}</td>
            {#each plans as { id, plan, slots } (id)}
              {@const draft = draftIn(plan, assignment.id)}
              <td class="px-3 py-2">
                {#if draft === null}<span class="sr-only">stays behind</span>
                {:else if draft.undated}
                  <strong>{slots.length === 0 ? 'no lessons yet' : 'no such lesson'}</strong>
                {:else}{sayDue(draft.due)}{/if}
              </td>
            {/each}
          </tr>
        {/each}
      </tbody>
    </table>
  </div>
</section>
