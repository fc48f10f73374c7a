<script lang="ts">
  import { page as view } from '$app/state';
  import { enhance } from '$ui/refresh';

  import Plus from '@lucide/svelte/icons/plus';

  let { data, form } = $props();
  let names = $state(['']);
</script>

<main class="mx-auto w-full max-w-xl flex-1 overflow-auto px-5 py-6">
  <h1 class="text-2xl font-bold">New class</h1>
  <p class="text-ink2">
    It is closed until you open it. Students see nothing before.
    {#if data.from}What it takes from {data.from.name}, you choose next.{/if}
  </p>
  {#if form?.sentence}<p class="trouble mt-3" role="alert">{form.sentence}</p>{/if}
  {#if data.courses.length === 0}
    <p class="notice mt-4">
      A class needs a course to teach from. <a href="/courses">Create a course</a> first.
    </p>
  {:else if data.terms.length === 0}
    <p class="notice mt-4">The school’s calendar has no term to come. The office enters terms.</p>
  {:else}
    <form method="POST" use:enhance class="mt-4 flex flex-col gap-3">
      {#each names as _, index (index)}
        <label
          ><span class="label"
            >{index === 0 ? 'Name, such as 8C' : `Name of class ${index + 1}`}</span
          ><input
            class="field"
            name="name"
            maxlength="60"
            required={index === 0}
            bind:value={names[index]}
          /></label
        >
      {/each}
      <div>
        <button type="button" class="act act-small" onclick={() => names.push('')}
          ><Plus size={16} aria-hidden="true" /> Add a parallel class</button
        >
      </div>
      {#if data.from}<input type="hidden" name="from" value={data.from.id} />{/if}
      <label
        ><span class="label">What is taught</span><select class="field" name="course">
          {#each data.courses as course (course.id)}<option
              value={course.id}
              selected={course.id === data.from?.course}>{course.title}</option
            >{/each}
        </select></label
      >
      <label
        ><span class="label">Term</span><select class="field" name="term">
          {#each data.terms as term (term.id)}<option value={term.id}
              >{term.name}, {term.starts} to {term.ends}</option
            >{/each}
        </select></label
      >
      {#if view.status === 409}
        <label class="flex items-center gap-2"
          ><input type="checkbox" name="same" value="yes" />It is another class of that name</label
        >
      {/if}
      <div>
        <button class="act act-main"
          >Create {names.filter(Boolean).length > 1 ? 'classes' : 'class'}</button
        >
      </div>
    </form>
  {/if}
</main>
