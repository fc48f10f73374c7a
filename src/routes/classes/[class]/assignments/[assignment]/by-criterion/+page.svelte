<script lang="ts">
  import { tick, untrack } from 'svelte';
  import { page } from '$app/state';
  import { counted } from '$core/lists/counted';
  import { writePoints } from '$core/marking/points';
  import { descriptorsOf, stepsOf } from '$core/marking/rubric-steps';
  import OnOff from '$ui/fields/OnOff.svelte';
  import { isWriting } from '$ui/is-writing';
  import ExampleButtons from '$ui/marking/ExampleButtons.svelte';
  import ExampleSheet from '$ui/marking/ExampleSheet.svelte';
  import { Examples } from '$ui/marking/examples.svelte';
  import { ScoringForm } from '$ui/marking/scoring-form.svelte';
  import { readAgain, refreshOnNews } from '$ui/refresh';
  import CriterionRow from './CriterionRow.svelte';

  let { data } = $props();
  refreshOnNews(
    'uncia:by-criterion',
    (heard) =>
      heard === 'resync' ||
      heard.some((one) => one.kind === 'copy' && one.row.assignment === data.assignment),
  );

  const { criteria } = $derived(data.rubric.table);
  const asked = $derived(page.url.searchParams.get('criterion'));
  const criterion = $derived(criteria.find(({ id }) => id === asked) ?? criteria[0]);
  const levels = $derived(stepsOf(data.rubric.table).filter((one) => one.levels.length === 1));

  let unnamed = $state(false);
  let byLevel = $state(false);
  /** What the forms are of: reading the view again makes no others, and none loses what is under way in it. */
  const formed = $derived(
    [data.rubric.id, data.rubric.version, ...data.copies.map((one) => one.page)].join(),
  );
  /** A scoring of each copy; a rubric that was changed is another form. */
  const forms = $derived.by(() => {
    void formed;
    return untrack(
      () => new Map(data.copies.map(({ page }) => [page, new ScoringForm(page, data.rubric)])),
    );
  });
  const rows = $derived(
    data.copies.flatMap((copy, index) => {
      const form = forms.get(copy.page);
      return form ? [{ copy, form, number: index + 1 }] : [];
    }),
  );
  const givenNow = ({ form }: (typeof rows)[number]) =>
    form.criteria.find(({ id }) => id === criterion?.id)?.points ?? null;
  const scored = $derived(rows.filter((row) => givenNow(row) !== null).length);
  /** In the order in which they were when it was asked for: none goes away under the hand that scores it. */
  const order = $derived.by(() => {
    void [byLevel, criterion?.id, data.copies.length];
    return untrack(() => {
      const placed = [...rows];
      const rank = (row: (typeof rows)[number]) => Number(givenNow(row) ?? -1);
      if (byLevel) placed.sort((a, b) => rank(b) - rank(a));
      return placed.map(({ copy }) => copy.page);
    });
  });
  const shown = $derived(order.flatMap((id) => rows.find(({ copy }) => copy.page === id) ?? []));

  const examples = untrack(
    () => new Examples(`/classes/${data.klass.id}/assignments/${data.assignment}`),
  );
  $effect(() => void examples.load());

  const changed = () => readAgain('uncia:by-criterion');

  function keys(event: KeyboardEvent) {
    if (isWriting(event) || event.ctrlKey || event.metaKey || event.altKey) return;
    const by = { ']': 1, '[': -1 }[event.key];
    if (!by) return;
    event.preventDefault();
    const all = [...document.querySelectorAll<HTMLElement>('[data-copy]')];
    const here = document.activeElement?.closest('[data-copy]');
    const at = all.findIndex((one) => one === here);
    void goTo(all[at < 0 ? 0 : at + by]);
  }
  async function goTo(row?: HTMLElement) {
    await tick();
    row?.scrollIntoView({ block: 'nearest' });
    // The answers of a page have such inputs, too.
    const inputs = [
      ...(row?.querySelectorAll<HTMLInputElement>('[data-levels] input[type="radio"]') ?? []),
    ];
    (inputs.find(({ checked }) => checked) ?? inputs[0])?.focus();
  }
</script>

<svelte:window onkeydown={keys} />

<main class="flex min-h-0 flex-1 flex-col">
  <header class="border-b border-rule bg-sheet px-5 py-3">
    <div class="flex flex-wrap items-center gap-x-5 gap-y-1">
      <h1 class="text-2xl font-bold">{data.title}: by criterion</h1>
      <p class="flex-1 text-sm text-ink2">
        {scored} of {counted(data.copies.length, 'copy', 'copies')} scored for this one; each level is
        saved at once
      </p>
      <OnOff says="By level" bind:on={byLevel} />
      <OnOff says="Without names" bind:on={unnamed} />
    </div>
    <nav class="mt-2 flex flex-wrap gap-1.5" aria-label="Criteria">
      {#each criteria as one (one.id)}
        <a
          class={['act act-small', one.id === criterion?.id && 'act-main']}
          aria-current={one.id === criterion?.id ? 'page' : undefined}
          href="?criterion={one.id}"
          data-sveltekit-replacestate>{one.title}</a
        >
      {/each}
    </nav>
    {#if criterion}<ul class="mt-2 flex flex-wrap gap-x-5 gap-y-0.5 text-sm" aria-label="Levels">
        {#each levels as step (step.points)}
          <li class="max-w-72">
            <strong>{writePoints(step.points)}</strong>
            {descriptorsOf(data.rubric.table, criterion.id, step)[0]?.says || 'no descriptor'}
            <ExampleButtons {examples} criterion={criterion.id} points={step.points} />
          </li>
        {/each}
      </ul>{/if}
    {#if examples.sentence}<p class="trouble mt-2" role="alert">{examples.sentence}</p>{/if}
  </header>
  <div class="min-h-0 flex-1 overflow-auto px-5 py-4">
    {#if data.apart > 0}<p class="mb-3 text-sm text-ink2">
        {counted(data.apart, 'copy is', 'copies are')} marked by two apart, and not among these.
      </p>{/if}
    {#if criterion}
      <ul class="grid gap-4">
        {#each shown as { copy, form, number } (copy.page)}
          <CriterionRow
            {copy}
            {form}
            {criterion}
            rubric={data.rubric}
            title={data.title}
            called={unnamed ? `Copy ${number}` : copy.names}
            to={unnamed ? null : `/classes/${data.klass.id}/marking/${copy.page}`}
            {examples}
            {changed}
          />
        {:else}<li class="text-ink2">
            No copy is with you now. What is handed in stands here, one below the other.
          </li>{/each}
      </ul>
    {/if}
  </div>
</main>
<ExampleSheet {examples} rubric={data.rubric} />
