<script lang="ts">
  import Pick from '$ui/fields/Pick.svelte';
  import Lessons from '$ui/plan/Lessons.svelte';
  import { enhance, saving } from '$ui/refresh';
  import ClassViews from '$ui/shell/ClassViews.svelte';

  let { data, form } = $props();
  const KINDS = [
    ['lead', 'leads the class'],
    ['co-teacher', 'teaches it too'],
    ['marker', 'looks and marks'],
  ] as const;
  const others = $derived(
    data.colleagues.filter(({ id }) => !data.staff.some((one) => one.id === id)),
  );
</script>

<main class="min-w-0 flex-1 overflow-auto px-5 py-3">
  <div class="flex flex-wrap items-center gap-x-6 gap-y-1">
    <h1 class="text-lg font-bold">{data.klass.name} {data.klass.title}</h1>
    <ClassViews klass={data.klass.id} leads />
  </div>
  {#if form?.sentence}<p class="trouble mt-3" role="alert">{form.sentence}</p>{/if}
  <div class="mt-5 grid max-w-5xl gap-x-10 gap-y-8 lg:grid-cols-2">
    <section aria-labelledby="staff">
      <h2 id="staff" class="text-lg font-bold">Staff</h2>
      <ul class="mt-1">
        {#each data.staff as one (one.id)}
          <li class="flex items-center gap-3 border-b border-rule py-2">
            <span class="flex-1">{one.given} {one.family}</span>
            <form method="POST" action="?/staff" use:enhance={saving('Saved.')}>
              <input type="hidden" name="person" value={one.id} />
              <select
                class="field w-auto py-1"
                name="kind"
                aria-label="What {one.given} {one.family} does"
                value={one.kind}
                onchange={(event) => event.currentTarget.form?.requestSubmit()}
              >
                {#each KINDS as [kind, says] (kind)}<option value={kind}>{says}</option>{/each}
                <option value="no">no longer</option>
              </select>
            </form>
          </li>
        {/each}
      </ul>
      {#if others.length > 0}
        <form
          method="POST"
          action="?/staff"
          use:enhance
          class="mt-3 flex flex-wrap items-end gap-2"
        >
          <div class="min-w-40 flex-1">
            <Pick
              label="A colleague"
              name="person"
              required
              options={others.map((one) => ({
                value: one.id,
                label: `${one.given} ${one.family}`,
              }))}
            />
          </div>
          <select class="field w-auto" name="kind" aria-label="What the colleague does">
            {#each KINDS as [kind, says] (kind)}<option value={kind}>{says}</option>{/each}
          </select>
          <button class="act">Add</button>
        </form>
      {/if}
    </section>
    <section aria-labelledby="lessons">
      <h2 id="lessons" class="text-lg font-bold">Lessons, each week</h2>
      <Lessons klass={data.klass.id} slots={data.slots} />
    </section>
    <section aria-labelledby="joining">
      <h2 id="joining" class="text-lg font-bold">Who joins later</h2>
      <form method="POST" action="?/joining" use:enhance={saving('Saved.')} class="mt-1">
        <label
          ><span class="label">Of what was handed out before, they get</span>
          <select
            class="field"
            name="rule"
            value={data.joinRule}
            onchange={(event) => event.currentTarget.form?.requestSubmit()}
          >
            <option value="open">everything that can still be handed in</option>
            <option value="coming">nothing; only what comes after</option>
            <option value="ask">what I say: I am told, and decide</option>
          </select></label
        >
      </form>
    </section>
    <section aria-labelledby="about">
      <h2 id="about" class="text-lg font-bold">How to reach us</h2>
      <form
        method="POST"
        action="?/about"
        use:enhance={saving('Saved.')}
        class="mt-1 flex flex-col gap-3"
      >
        <label
          ><span class="label">Name of the class</span><input
            class="field"
            name="name"
            value={data.klass.name}
            maxlength="60"
            required
          /></label
        >
        <label
          ><span class="label">What students and families should know</span><textarea
            class="field"
            name="about"
            rows="4"
            maxlength="2000"
            value={data.about}
            placeholder="Room 12, Tuesdays after school"></textarea></label
        >
        <div><button class="act">Save</button></div>
      </form>
    </section>
    {#if data.mayClose}
      <section aria-labelledby="end">
        <h2 id="end" class="text-lg font-bold">When the term ends</h2>
        <p class="mt-1 mb-3 text-ink2">
          See what is still open, move units out of students’ sight, and archive the class: nothing
          is lost, and nothing in it changes any more.
        </p>
        <a class="act" href="/classes/{data.klass.id}/close">Close the term …</a>
        <form method="POST" action="?/remove" use:enhance class="mt-3">
          <button class="act act-plain">Remove the class, while nothing is in it</button>
        </form>
      </section>
    {/if}
  </div>
</main>
