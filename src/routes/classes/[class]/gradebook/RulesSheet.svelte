<script lang="ts">
  import { untrack } from 'svelte';
  import { weightsOf } from '$core/grades/grade-line';
  import type { GradeRules } from '$core/grades/rules';
  import { readPoints, samePoints } from '$core/marking/points';
  import Choice from '$ui/fields/Choice.svelte';
  import Pick from '$ui/fields/Pick.svelte';
  import { send } from '$ui/send';
  import Sheet from '$ui/shell/Sheet.svelte';

  interface Props {
    klass: string;
    rules: GradeRules;
    version: number;
    /** The categories of what was handed out in the class. */
    used: readonly string[];
    saved: () => Promise<void>;
    close: () => void;
  }
  let { klass, rules, version, used, saved, close }: Props = $props();

  let draft: GradeRules = $state(untrack(() => structuredClone($state.snapshot(rules))));
  const TOTALS = [
    ['none', 'No total'],
    ['points', 'All points'],
    ['weights', 'Weighted categories'],
  ] as const;
  const MISSING = [
    ['empty', 'does not count'],
    ['zero', 'counts as zero'],
  ] as const;
  const PLACES = [
    ['0', '73 %'],
    ['1', '73.3 %'],
    ['2', '73.33 %'],
  ] as const;
  let sentence = $state('');
  let sending = $state(false);
  /** As it is kept; what is no number stays as it was typed, and the server says so. */
  const plain = (text: string) => readPoints(text) ?? text;
  const weights = $derived(
    draft.categories.every(({ weight }) => readPoints(weight) !== null)
      ? weightsOf({
          ...draft,
          categories: draft.categories.map((one) => ({ ...one, weight: plain(one.weight) })),
        })
      : null,
  );
  const open = $derived(
    used.filter((name) => !draft.categories.some((category) => category.name === name)),
  );
  const add = (name: string) => draft.categories.push({ name, weight: '', drop: 0 });

  async function save(event: SubmitEvent) {
    event.preventDefault();
    sending = true;
    const next: GradeRules = {
      ...$state.snapshot(draft),
      categories: draft.categories.map((one) => ({
        ...one,
        weight: plain(one.weight.trim() || '0'),
      })),
      scale: draft.scale.map((one) => ({ ...one, from: plain(one.from) })),
    };
    try {
      await send(`/classes/${klass}/gradebook`, { rules: next, version }, 'PUT');
      await saved();
      close();
    } catch (error) {
      sentence = error instanceof Error ? error.message : '';
      await saved();
    } finally {
      sending = false;
    }
  }
</script>

<Sheet bind:open={() => true, (isOpen) => !isOpen && close()} title="How this class counts">
  <form onsubmit={save} class="mt-3 grid gap-4">
    <div>
      <p class="label">The total of a student</p>
      <Choice label="The total of a student" options={TOTALS} bind:value={draft.total} />
    </div>
    <div>
      <p class="label">What is missing after its due time</p>
      <Choice
        label="What is missing after its due time"
        options={MISSING}
        bind:value={draft.missing}
      />
    </div>
    {#if draft.total !== 'none'}
      <div>
        <p class="label">Shown as</p>
        <Choice
          label="Shown as"
          options={PLACES}
          bind:value={() => `${draft.places}` as '0', (places) => (draft.places = Number(places))}
        />
      </div>
      <div>
        <p class="font-bold">Categories</p>
        {#each draft.categories as category, index (index)}
          <div class="mt-2 flex flex-wrap items-end gap-2">
            <label class="min-w-32 flex-1"
              ><span class="label">Name</span><input
                class="field"
                maxlength="100"
                bind:value={category.name}
              /></label
            >
            {#if draft.total === 'weights'}<label class="w-20"
                ><span class="label">Weight</span><input
                  class="field"
                  inputmode="decimal"
                  bind:value={category.weight}
                /></label
              >{/if}
            <label class="w-28"
              ><span class="label">Drop lowest</span><select
                class="field"
                bind:value={category.drop}
              >
                {#each [0, 1, 2, 3, 4, 5] as n (n)}<option value={n}>{n || 'none'}</option>{/each}
              </select></label
            >
            <button
              type="button"
              class="act act-small act-plain mb-1"
              onclick={() => draft.categories.splice(index, 1)}
              >Remove<span class="sr-only"> {category.name}</span></button
            >
          </div>
        {/each}
        <div class="mt-2 max-w-60">
          <Pick
            label="Add a category"
            free
            once
            options={open.map((name) => ({ value: name, label: name }))}
            onchange={add}
          />
        </div>
        {#if draft.total === 'weights' && weights !== null && draft.categories.length > 0 && !samePoints(weights, '100')}
          <p class="notice mt-2">
            The weights add up to {weights}, not 100. Each counts as its share of {weights}.
          </p>
        {/if}
      </div>
      <div>
        <p class="font-bold">Grades of the school</p>
        <p class="text-sm text-ink2">Each from so many of a hundred on. None, if you leave it.</p>
        {#each draft.scale as step, index (index)}
          <div class="mt-2 flex items-end gap-2">
            <label class="w-24"
              ><span class="label">From</span><input
                class="field"
                inputmode="decimal"
                bind:value={step.from}
              /></label
            >
            <label class="w-32"
              ><span class="label">Grade</span><input
                class="field"
                maxlength="20"
                bind:value={step.grade}
              /></label
            >
            <button
              type="button"
              class="act act-small act-plain mb-1"
              onclick={() => draft.scale.splice(index, 1)}
              >Remove<span class="sr-only"> {step.grade}</span></button
            >
          </div>
        {/each}
        <button
          type="button"
          class="act act-small mt-2"
          onclick={() => draft.scale.push({ from: '', grade: '' })}>Add grade</button
        >
      </div>
    {/if}
    {#if sentence}<p class="trouble" role="alert">{sentence}</p>{/if}
    <div class="flex justify-end gap-2">
      <button type="button" class="act" onclick={close}>Cancel</button>
      <button class="act act-main" disabled={sending}>Save</button>
    </div>
  </form>
</Sheet>
