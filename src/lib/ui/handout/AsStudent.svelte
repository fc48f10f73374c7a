<script lang="ts">
  import Pick from '$ui/fields/Pick.svelte';
  import PlainPage from '$ui/page/PlainPage.svelte';
  import type { HandOutForm } from './hand-out-form.svelte';

  /** What one student would get, as they would see it. */
  let { form }: { form: HandOutForm } = $props();
  let viewer = $state('');
  const HOW = {
    'to read': 'to read',
    'one for all': 'shared by the class',
    'one per group': 'shared by the group',
    'one each': 'a copy of their own',
  };

  const plan = $derived(form.plan);
  const everybody = $derived(form.students);
  const known = $derived(everybody.find(({ id }) => id === viewer) ?? everybody[0]);
  const adapted = $derived(new Set(form.spec.adapted.flatMap(({ students }) => students)));
  const klass = $derived(form.classes.find(({ name }) => name === known?.klass));
  const theirs = $derived(plan.copies.filter(({ members }) => known && members.includes(known.id)));
  $effect(() => {
    for (const { source } of theirs) void form.read(source);
  });
</script>

<div class="flex items-center gap-3">
  <h2 class="flex-1 font-bold whitespace-nowrap">As a student sees it</h2>
  <div class="w-56">
    <Pick
      label="Which student"
      quiet
      value={known?.id}
      onchange={(student) => (viewer = student)}
      options={everybody.map((one) => ({
        value: one.id,
        label: `${one.name} (${one.klass})${adapted.has(one.id) ? ', adapted' : ''}`,
      }))}
    />
  </div>
</div>
{#if known}
  {#each theirs as copy (`${copy.for} ${copy.source}`)}
    {@const doc = form.docs[copy.source]}
    <div class="mt-3 overflow-x-auto border border-rule bg-(--page) px-6 py-4">
      <p class="text-sm text-ink2">
        {known.name} · {klass?.name}
        {klass?.title}{copy.student ? '' : ` · ${copy.group || HOW[copy.delivery]}`}
      </p>
      <p class="font-page text-xl font-semibold">{form.spec.title}</p>
      {#if form.spec.instructions}<p
          class="mt-1 border-l-3 border-rule pl-3 whitespace-pre-line text-ink2"
        >
          {form.spec.instructions}
        </p>{/if}
      {#if form.spec.form === 'done or not'}
        <p class="mt-3"><span class="act act-main pointer-events-none">I have done it</span></p>
      {:else if doc}{#key copy.source}<PlainPage doc={doc.doc} label={form.spec.title} />{/key}
      {:else}<p class="mt-2 text-ink2" role="status">Reading the page …</p>{/if}
    </div>
  {:else}
    <p class="mt-3 border border-rule bg-(--page) px-6 py-4 text-ink2">
      {known.name} gets nothing of this, and does not see that it exists.
    </p>
  {/each}
{/if}
{#if form.trouble}<p class="trouble mt-3" role="alert">{form.trouble}</p>{/if}
