<script lang="ts">
  import Choice from '$ui/fields/Choice.svelte';
  import Removed from '$ui/plan/Removed.svelte';
  import FormButton from '$ui/shell/FormButton.svelte';
  import FileField from '$ui/fields/FileField.svelte';
  import { forest } from '$core/lists/forest';
  import { counted } from '$core/lists/counted';
  import { grouped } from '$core/lists/grouped';
  import { listed } from '$core/lists/listed';
  import { send } from '$ui/send';
  import { enhance, readAgain } from '$ui/refresh';
  import CodeTree from './CodeTree.svelte';

  let { data, form } = $props();
  let only: 'all' | 'covered' | 'open' = $state('all');
  // Not what reading the view again brings: only another address chooses another code.
  const asked = $derived(data.asked);
  let chosenId: string | null = $derived(asked);
  let trouble = $state('');

  const using = $derived(grouped(data.tagged, ({ code }) => code));
  const covered = $derived(data.codes.filter(({ id }) => using.has(id)).length);
  const chosen = $derived(data.codes.find(({ id }) => id === chosenId));
  const uses = $derived(using.get(chosenId ?? '') ?? []);
  const sets = $derived(
    [...grouped(data.codes, ({ set }) => set)].map(([id, codes]) => ({
      id,
      title: codes[0]?.list ?? '',
      mine: codes[0]?.by === data.me,
      trees: forest(codes, ({ id }) => only === 'all' || using.has(id) === (only === 'covered')),
    })),
  );
  const FILTERS = [
    ['all', 'All'],
    ['covered', 'Covered'],
    ['open', 'Not covered'],
  ] as const;

  type Target = { page: string } | { rubric: string; criterion: string } | { assignment: string };
  const inCourse = $derived(`/courses/${data.course.id}/codes/tags`);
  const targets = $derived([
    ...data.pages.map(({ id, title }) => ({
      key: id,
      title,
      on: { page: id } as Target,
      to: inCourse,
    })),
    ...data.criteria.map(({ rubric, criterion, title }) => ({
      key: `${rubric} ${criterion}`,
      title,
      to: inCourse,
      on: { rubric, criterion } as Target,
    })),
    ...data.assignments.map(({ id, title, klass, names }) => ({
      key: id,
      title: `${title}, handed out in ${names}`,
      to: `/classes/${klass}/plan/codes`,
      on: { assignment: id } as Target,
    })),
  ]);
  const keyOf = (one: (typeof data.tagged)[number]) =>
    one.criterion === null ? one.id : `${one.id} ${one.criterion}`;

  /** Puts a code on something, or takes it off: what it carries is sent whole. */
  async function put(code: string, target: (typeof targets)[number], is: boolean) {
    trouble = '';
    const carried = data.tagged.filter((one) => keyOf(one) === target.key).map((one) => one.code);
    const codes = is ? [...carried, code] : carried.filter((one) => one !== code);
    try {
      await send(target.to, { on: target.on, codes }, 'PUT');
      await readAgain();
    } catch (error) {
      trouble = error instanceof Error ? error.message : '';
    }
  }
</script>

<main class="min-w-0 flex-1 overflow-auto px-5 py-5">
  <div class="mx-auto max-w-5xl">
    <div class="flex flex-wrap items-center gap-3">
      <h1 class="flex-1 text-2xl font-bold">Curriculum codes</h1>
      {#if data.mayWrite}
        <form
          id="read"
          method="POST"
          action="?/read"
          enctype="multipart/form-data"
          use:enhance={() =>
            // The file stays chosen while a question about it is open.
            ({ update, result }) =>
              update({ reset: !(result.type === 'success' && result.data?.same) })}
        >
          <FileField
            label="Import a list"
            name="list"
            accept={['.csv', '.json', '.txt']}
            asButton
          />
        </form>
      {/if}
    </div>
    {#if form && 'sentence' in form}<p class="trouble mt-3" role="alert">{form.sentence}</p>{/if}
    {#if trouble}<p class="trouble mt-3" role="alert">{trouble}</p>{/if}
    {#if form && 'same' in form && form.same}
      {@const { title, by, added, changed, gone } = form.same}
      <section class="notice mt-3" role="status" aria-label="A list of this name is here already">
        <p>
          <strong>“{title}” is here already; {by} brought it in.</strong>
          {#if added + changed + gone === 0}
            The file says the same.
          {:else}
            Brought up to date by this file, {listed([
              ...(added ? [`${counted(added, 'code')} would be new`] : []),
              ...(changed ? [`${counted(changed, 'code')} would say something else`] : []),
              ...(gone ? [`${counted(gone, 'code')} would not be shown any more`] : []),
            ])}. What carries a code keeps it.
          {/if}
        </p>
        <div class="mt-3 flex flex-wrap gap-2">
          {#if added + changed + gone > 0}<button
              form="read"
              name="how"
              value="update"
              class="act act-small act-main">Bring it up to date</button
            >{/if}
          <button form="read" name="how" value="another" class="act act-small"
            >Keep both as lists of their own</button
          >
        </div>
      </section>
    {/if}
    {#if form && 'kept' in form}
      <p class="notice mt-3" role="status">
        {form.kept} codes are here now.{form.passed?.length
          ? ` Skipped: ${form.passed.join('; ')}.`
          : ''}
      </p>
    {/if}
    {#if data.codes.length === 0}
      <p class="notice mt-4">
        No list of codes yet. Read one from a CSV file with the columns “code” and “statement” (and
        “parent”, if codes stand under others), or from a CASE file of your curriculum.
      </p>
    {:else}
      <div class="mt-3 flex flex-wrap items-center gap-4">
        <p>{covered} of {data.codes.length} codes are covered in {data.course.title}.</p>
        <Choice label="Which codes" options={FILTERS} bind:value={only} />
      </div>
      <div class="mt-4 grid grid-cols-[3fr_2fr] items-start gap-6 max-md:grid-cols-1">
        <div class="space-y-5">
          {#each sets as { id, title, mine, trees } (id)}
            {#if trees.length > 0}
              <CodeTree
                label={title}
                {trees}
                covered={(id) => using.has(id)}
                bind:chosen={chosenId}
              />
            {:else}
              <h2 class="font-bold">{title}</h2>
              <p class="text-ink2">None.</p>
            {/if}
            {#if mine && data.mayWrite}
              <FormButton
                label="Remove this list"
                action="away"
                fields={{ list: id, away: 'true' }}
                look="act act-small act-plain"
              />
            {/if}
          {/each}
        </div>
        <section class="sticky top-0 max-md:static" aria-label="Where the code stands">
          {#if chosen}
            <h2 class="font-bold">{chosen.code}</h2>
            <p>{chosen.statement}</p>
            {#if data.mayWrite}
              <div class="mt-3 text-sm">
                {#each targets as target (target.key)}
                  <label class="flex items-center gap-2 py-1"
                    ><input
                      type="checkbox"
                      checked={uses.some((one) => keyOf(one) === target.key)}
                      onchange={(event) =>
                        chosenId && put(chosenId, target, event.currentTarget.checked)}
                    />{target.title}</label
                  >
                {:else}<p class="text-ink2">The course has no pages yet.</p>{/each}
              </div>
            {:else}
              <ul class="mt-3 text-sm">
                {#each uses as one (keyOf(one))}
                  <li class="py-1">
                    {one.title}{one.kind === 'assignment' ? ', handed out' : ''}
                  </li>
                {:else}<li class="text-ink2">Nothing in this course carries it.</li>{/each}
              </ul>
            {/if}
          {:else}
            <p class="notice">Choose a code to see what carries it.</p>
          {/if}
        </section>
      </div>
    {/if}
    {#if data.mayWrite}
      <Removed gone={data.removed.map(({ id, title }) => ({ id, title, fields: { list: id } }))} />
    {/if}
  </div>
</main>
