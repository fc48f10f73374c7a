<script lang="ts">
  import Pick from '$ui/fields/Pick.svelte';
  import PlainPage from '$ui/page/PlainPage.svelte';

  interface Props {
    klass: string;
    assignment: string;
    students: { id: string; name: string }[];
  }
  /** What a student really has, asked on their own rights. */
  let { klass, assignment, students }: Props = $props();
  let seen = $state<
    { id: string; title: string; mayWrite: boolean; replaced: boolean; doc: object }[] | null
  >(null);
  let trouble = $state('');
  async function look(student: string) {
    seen = null;
    trouble = '';
    if (!student) return;
    const answer = await fetch(
      `/classes/${klass}/assignments/${assignment}/as?student=${student}`,
    ).catch(() => null);
    const read = await answer?.json().catch(() => null);
    if (answer?.ok) seen = read;
    else trouble = read?.message ?? 'The server does not answer. Please try again.';
  }
</script>

<div class="mt-5 flex items-center gap-3">
  <h2 class="flex-1 font-bold whitespace-nowrap">As a student sees it</h2>
  <div class="w-48">
    <Pick
      label="Which student"
      quiet
      onchange={look}
      options={students.map(({ id, name }) => ({ value: id, label: name }))}
    />
  </div>
</div>
{#if trouble}<p class="trouble mt-2" role="alert">{trouble}</p>{/if}
{#if seen}
  {#each seen as page (page.id)}
    <div class="mt-2 overflow-x-auto border border-rule bg-(--page) px-5 py-3">
      <p class="text-sm text-ink2">
        {page.replaced ? 'kept to read' : page.mayWrite ? 'to write in' : 'to read'}
      </p>
      <p class="font-page text-lg font-semibold">{page.title}</p>
      <PlainPage doc={page.doc} label={page.title} />
    </div>
  {:else}<p class="mt-2 text-ink2">Nothing of this: neither the page nor that it exists.</p>{/each}
{/if}
