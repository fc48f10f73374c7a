<script lang="ts">
  import { enhance } from '$ui/refresh';

  let { data, form } = $props();
  const count = (n: number | null, one: string) => `${n ?? 0} ${one}${n === 1 ? '' : 's'}`;
  const RIGHTS = { own: 'yours', write: 'you write in it', use: 'you use it' };
</script>

<main class="mx-auto w-full max-w-4xl flex-1 overflow-auto px-5 py-6">
  <h1 class="text-2xl font-bold">Courses</h1>
  <p class="text-ink2">
    {data.chosen
      ? `Choose a course to hand out from in ${data.chosen.name}.`
      : 'What you teach from, year after year. A course holds no student’s work.'}
  </p>
  {#if form?.sentence}<p class="trouble mt-3" role="alert">{form.sentence}</p>{/if}
  <ul class="mt-5 border border-rule bg-sheet">
    {#each data.courses as course (course.id)}
      <li
        class="flex flex-wrap items-baseline gap-x-5 border-b border-rule px-4 py-3 last:border-b-0"
      >
        <a
          href="/courses/{course.id}{data.chosen ? `?class=${data.chosen.id}` : ''}"
          class="min-w-0 flex-1 text-lg font-bold text-ink no-underline hover:text-spruce"
          >{course.title}</a
        >
        <span class="text-sm text-ink2"
          >{count(course.units, 'unit')} · {count(course.pages, 'page')} · {RIGHTS[
            course.may
          ]}{course.may === 'own' ? '' : `, from ${course.owner ?? 'a colleague'}`}</span
        >
      </li>
    {:else}
      <li class="px-4 py-3 text-ink2">No course yet. Create one below.</li>
    {/each}
  </ul>
  {#if data.removed.length > 0}
    <details class="mt-4">
      <summary class="text-ink2">Removed · {data.removed.length}</summary>
      <ul class="mt-2">
        {#each data.removed as course (course.id)}
          <li class="flex items-center gap-3 border-b border-rule py-1.5">
            <span class="min-w-0 flex-1 truncate">{course.title}</span>
            <form method="POST" action="/courses/{course.id}?/remove">
              <input type="hidden" name="away" value="false" />
              <button class="act act-small">Restore</button>
            </form>
          </li>
        {/each}
      </ul>
    </details>
  {/if}
  <form method="POST" action="?/begin" use:enhance class="mt-4 flex flex-wrap gap-2">
    <input
      class="field max-w-sm"
      name="title"
      placeholder="Title of a new course"
      aria-label="Title of a new course"
      required
      maxlength="300"
    />
    <button class="act">Create a course</button>
  </form>
</main>
