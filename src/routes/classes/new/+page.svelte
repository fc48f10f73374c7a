<script lang="ts">
  import { enhance } from '$ui/refresh';

  let { data, form } = $props();
</script>

<main class="mx-auto w-full max-w-xl flex-1 overflow-auto px-5 py-6">
  <h1 class="text-2xl font-bold">New class</h1>
  <p class="text-ink2">It is closed until you open it. Students see nothing before.</p>
  {#if form?.sentence}<p class="trouble mt-3" role="alert">{form.sentence}</p>{/if}
  {#if data.courses.length === 0}
    <p class="notice mt-4">
      A class needs a course to teach from. <a href="/courses">Create a course</a> first.
    </p>
  {:else if data.terms.length === 0}
    <p class="notice mt-4">The school’s calendar has no term to come. The office enters terms.</p>
  {:else}
    <form method="POST" use:enhance class="mt-4 flex flex-col gap-3">
      <label
        ><span class="label">Name, such as 8C</span><input
          class="field"
          name="name"
          maxlength="60"
          required
        /></label
      >
      <label
        ><span class="label">What is taught</span><select class="field" name="course">
          {#each data.courses as course (course.id)}<option value={course.id}>{course.title}</option
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
      <div><button class="act act-main">Create class</button></div>
    </form>
  {/if}
</main>
