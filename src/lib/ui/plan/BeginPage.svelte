<script lang="ts">
  import { enhance } from '$ui/refresh';

  interface Props {
    unit: string | null;
    /** The unit's title; nothing for no unit. */
    where: string | undefined;
    /** What is chosen of a new page: the field's name, what it is called, and its values with their words. */
    choice: { name: string; label: string; values: [string, string][] };
  }
  let { unit, where, choice }: Props = $props();
</script>

<form method="POST" action="?/begin" use:enhance class="flex flex-wrap gap-2 py-1.5 pl-8">
  <input type="hidden" name="unit" value={unit ?? ''} />
  <input
    class="field max-w-72 border-transparent bg-transparent py-1 hover:border-rule focus:border-rule"
    name="title"
    placeholder="New page"
    aria-label={where ? `Title of a new page in ${where}` : 'Title of a new page'}
    maxlength="300"
    required
  />
  <select
    class="field w-auto border-transparent bg-transparent py-1 text-sm"
    name={choice.name}
    aria-label={where ? `${choice.label} in ${where}` : choice.label}
  >
    {#each choice.values as [value, words] (value)}<option {value}>{words}</option>{/each}
  </select>
  <button class="act act-small"
    >Create<span class="sr-only">{where ? ` in ${where}` : ''}</span></button
  >
</form>
