<script lang="ts">
  import { enhance } from '$ui/refresh';

  interface Props {
    /** The form's action, and what it is told besides. */
    action: string;
    fields: Record<string, string>;
    person: { given: string; family: string; email: string; called?: string };
    done: () => void;
  }
  let { action, fields, person, done }: Props = $props();

  const FIELDS = [
    ['given', 'Given name', true],
    ['family', 'Family name', true],
    ['called', 'Students call them', false],
    ['email', 'E-mail', false],
  ] as const;
</script>

<form
  method="POST"
  action="?/{action}"
  class="flex basis-full flex-wrap items-end gap-2 pb-2"
  use:enhance={() =>
    async ({ update, result }) => {
      await update();
      if (result.type === 'success') done();
    }}
>
  {#each Object.entries(fields) as [name, value] (name)}<input
      type="hidden"
      {name}
      {value}
    />{/each}
  {#each FIELDS as [name, label, required] (name)}
    {#if person[name] !== undefined}<label class="min-w-32 flex-1"
        ><span class="label">{label}</span><input
          class="field"
          {name}
          value={person[name]}
          maxlength="100"
          {required}
        /></label
      >{/if}
  {/each}
  <button class="act">Save</button>
  <button type="button" class="act act-plain" onclick={done}>Cancel</button>
</form>
