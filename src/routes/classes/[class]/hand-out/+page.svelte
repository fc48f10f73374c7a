<script lang="ts">
  import { Node } from 'prosemirror-model';
  import { untrack } from 'svelte';
  import { enhance } from '$app/forms';
  import { planOneEach } from '$core/handout/plan';
  import { readPoints } from '$core/marking/points';
  import { partsOf } from '$core/page/parts';
  import { schema } from '$core/page/schema';
  import { answerHints } from '$ui/page/answers';
  import { PageSession } from '$ui/page/page-session.svelte';
  import PageView from '$ui/page/PageView.svelte';
  import { when } from '$ui/when';

  let { data, form } = $props();
  const start = untrack(() => data);
  let title = $state(start.original.title);
  let instructions = $state('');
  let due = $state(start.lessons[1]?.local ?? start.lessons[0]?.local ?? '');
  let points = $state('');
  let guarded = $state(true);
  let viewer = $state(start.students[0]?.id ?? '');
  let sending = $state(false);

  const preview = untrack(
    () =>
      new PageSession({
        ...{ page: data.original.id, version: data.original.version, doc: data.original.doc },
        ...{ plugins: [answerHints], setAside: [] },
      }),
  );
  const parts = untrack(() => partsOf(Node.fromJSON(schema, data.original.doc)).length);
  const lesson = $derived(data.lessons.find(({ local }) => local === due));
  /** The due time as an instant, where it is the end of a lesson; otherwise it is read by the server's calendar. */
  const plan = $derived(
    planOneEach({
      className: data.klass.name,
      students: data.students.map(({ id, given, family }) => ({ id, name: `${given} ${family}` })),
      guarded,
      points: points.trim() === '' ? null : readPoints(points),
      parts,
      due: due === '' ? null : (lesson?.ends ?? Date.parse(due)),
      now: data.now,
      dueAtLesson: lesson !== undefined,
      dueClock: due.slice(11, 16),
    }),
  );
  const student = $derived(data.students.find(({ id }) => id === viewer));
  const first = $derived(plan.sentences[0] ?? '');
</script>

<div class="flex min-h-0 flex-1 max-lg:flex-col max-lg:overflow-auto">
  <main class="min-w-0 flex-1 overflow-auto px-6 py-4">
    <form
      method="POST"
      use:enhance={() => {
        sending = true;
        return async ({ update }) => {
          await update({ reset: false });
          sending = false;
        };
      }}
      class="mx-auto max-w-3xl space-y-4"
    >
      <h1 class="text-xl font-bold">Hand out {data.original.title}</h1>
      {#if form?.sentence}<p class="trouble" role="alert">
          {form.sentence} Nothing was handed out; what you filled in is still here.
        </p>{/if}
      <input type="hidden" name="id" value={data.id} />
      <input type="hidden" name="original" value={data.original.id} />
      <div>
        <p class="label">How it reaches them</p>
        <p
          class="flex items-center gap-3 rounded-lg border-2 border-spruce bg-spruce-pale px-4 py-2.5"
        >
          <svg width="76" height="28" viewBox="0 0 76 28" aria-hidden="true">
            {#each [0, 20, 40, 60] as x (x)}
              <circle cx={x + 7} cy="5" r="4" fill="var(--spruce)" /><rect
                x={x + 1}
                y="11"
                width="12"
                height="15"
                rx="2"
                fill="none"
                stroke="var(--ink)"
                stroke-width="1.5"
              />
            {/each}
          </svg>
          <span
            ><strong>One each</strong>
            <span class="text-ink"
              >to all of {data.klass.name} · {data.students.length}, named for each student</span
            ></span
          >
        </p>
      </div>
      <label class="block"
        ><span class="label">Title</span><input
          class="field"
          name="title"
          bind:value={title}
          required
          maxlength="300"
        /></label
      >
      <div class="grid gap-4 sm:grid-cols-3">
        <label class="block"
          ><span class="label">Due</span><input
            class="field"
            type="datetime-local"
            name="due"
            bind:value={due}
          /></label
        >
        <label class="block"
          ><span class="label">Unit</span>
          <select class="field" name="unit" value={start.units[0]?.id ?? ''}>
            {#each data.units as unit (unit.id)}<option value={unit.id}>{unit.title}</option>{/each}
            <option value="">no unit</option>
          </select></label
        >
        <label class="block"
          ><span class="label">Points</span><input
            class="field"
            name="points"
            inputmode="decimal"
            placeholder="none"
            bind:value={points}
          /></label
        >
      </div>
      <div class="flex flex-wrap gap-2" role="group" aria-label="Due at the end of a lesson">
        {#each data.lessons.slice(0, 4) as lesson (lesson.ends)}
          <button
            type="button"
            class={['act act-small', due === lesson.local && 'border-spruce bg-spruce-pale']}
            aria-pressed={due === lesson.local}
            onclick={() => (due = lesson.local)}
          >
            end of {when(lesson.ends, data.now, data.klass.time_zone)}
          </button>
        {/each}
        <button
          type="button"
          class={['act act-small', due === '' && 'border-spruce bg-spruce-pale']}
          aria-pressed={due === ''}
          onclick={() => (due = '')}>no due time</button
        >
      </div>
      <label class="block"
        ><span class="label">Say to them</span><textarea
          class="field"
          name="instructions"
          rows="3"
          maxlength="5000"
          bind:value={instructions}></textarea></label
      >
      <label class="flex items-center gap-2"
        ><input type="checkbox" name="guarded" bind:checked={guarded} /> Guard my text: students write
        only in the places for answers</label
      >
      <div class="notice" aria-live="polite">
        <p>
          <strong>{first.split(' will ')[0]}</strong>{first.includes(' will ')
            ? ` will ${first.split(' will ').slice(1).join(' will ')}`
            : ''}
          {plan.sentences.slice(1).join(' ')}
        </p>
        {#each plan.oddities as oddity (oddity)}<p class="mt-1 font-bold">{oddity}</p>{/each}
      </div>
      <div class="flex gap-3">
        <button class="act act-main" disabled={sending || data.students.length === 0}
          >{sending ? 'Handing out …' : 'Hand out now'}</button
        >
        <a class="act" href="/classes/{data.klass.id}">Leave it</a>
      </div>
    </form>
  </main>
  <aside
    class="w-[27rem] shrink-0 overflow-auto border-l border-rule px-5 py-4 max-lg:w-full max-lg:border-l-0"
    aria-labelledby="seen"
  >
    <div class="flex items-center gap-3">
      <h2 id="seen" class="flex-1 font-bold">As a student sees it</h2>
      <select class="field w-auto" aria-label="Which student" bind:value={viewer}>
        {#each data.students as one (one.id)}<option value={one.id}>{one.given} {one.family}</option
          >{/each}
      </select>
    </div>
    <div class="mt-3 border border-rule bg-(--page) px-6 py-4 text-sm">
      <p class="text-ink2">
        {student ? `${student.given} ${student.family}` : ''} · {data.klass.name}
        {data.klass.title}
      </p>
      <p class="font-page text-xl font-semibold">{title}</p>
      {#if instructions.trim()}<p
          class="mt-2 border-l-3 border-rule bg-paper px-3 py-1.5 whitespace-pre-line text-ink2"
        >
          {instructions}
        </p>{/if}
      <div class="mt-1 pl-4 text-[0.85rem]">
        <PageView session={preview} label="The page as a student gets it" editable={false} />
      </div>
    </div>
    {#if due}<p class="mt-3 text-sm text-ink2">
        Due {lesson
          ? `${when(lesson.ends, data.now, data.klass.time_zone)}, the end of a lesson`
          : due.replace('T', ' ')}.
      </p>{/if}
  </aside>
</div>
