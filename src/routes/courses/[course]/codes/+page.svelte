<script lang="ts">
  import Choice from '$ui/fields/Choice.svelte';
  import FileField from '$ui/fields/FileField.svelte';
  import { grouped } from '$core/lists/grouped';
  import { send } from '$ui/send';
  import { enhance, readAgain } from '$ui/refresh';

  let { data, form } = $props();
  let only: 'all' | 'covered' | 'open' = $state('all');
  let choosing: string | null = $state(null);
  let trouble = $state('');

  const using = $derived(grouped(data.tagged, ({ code }) => code));
  const covered = $derived(data.codes.filter(({ id }) => using.has(id)).length);
  const shown = $derived(
    data.codes.filter(({ id }) => only === 'all' || using.has(id) === (only === 'covered')),
  );
  const sets = $derived([...new Set(data.codes.map(({ set }) => set))]);
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
        <form method="POST" action="?/read" enctype="multipart/form-data" use:enhance>
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
      {#each sets as set (set)}
        <h2 class="mt-5 font-bold">{set}</h2>
        <ul class="mt-1 border border-rule bg-sheet">
          {#each shown.filter((code) => code.set === set) as code (code.id)}
            {@const uses = using.get(code.id) ?? []}
            <li class="border-b border-rule px-4 py-2 last:border-b-0">
              <div class="flex items-baseline gap-3" style:padding-left="{code.depth * 1.25}rem">
                <span
                  class={[
                    'w-3 shrink-0 text-center',
                    uses.length > 0 ? 'text-spruce' : 'text-quiet',
                  ]}
                  aria-hidden="true">{uses.length > 0 ? '●' : '○'}</span
                >
                <strong class="shrink-0">{code.code}</strong>
                <span class="min-w-0 flex-1"
                  >{code.statement}<span class="sr-only"
                    >, {uses.length > 0 ? 'covered' : 'not covered'}</span
                  ></span
                >
                {#if data.mayWrite}
                  <button
                    class="act act-small act-plain"
                    aria-expanded={choosing === code.id}
                    onclick={() => (choosing = choosing === code.id ? null : code.id)}
                    >Put on<span class="sr-only"> {code.code}</span> …</button
                  >
                {/if}
              </div>
              {#if uses.length > 0}
                <p
                  class="mt-0.5 text-sm text-ink2"
                  style:padding-left="{code.depth * 1.25 + 1.5}rem"
                >
                  {uses
                    .map(({ title, kind }) =>
                      kind === 'assignment' ? `${title}, handed out` : title,
                    )
                    .join(' · ')}
                </p>
              {/if}
              {#if choosing === code.id}
                <div class="mt-2 columns-2 gap-6 pl-6 text-sm max-md:columns-1">
                  {#each targets as target (target.key)}
                    <label class="flex items-center gap-2 py-1"
                      ><input
                        type="checkbox"
                        checked={uses.some((one) => keyOf(one) === target.key)}
                        onchange={(event) => put(code.id, target, event.currentTarget.checked)}
                      />{target.title}</label
                    >
                  {:else}<p class="text-ink2">The course has no pages yet.</p>{/each}
                </div>
              {/if}
            </li>
          {:else}
            <li class="px-4 py-2 text-ink2">None.</li>
          {/each}
        </ul>
      {/each}
    {/if}
  </div>
</main>
