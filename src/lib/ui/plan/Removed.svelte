<script lang="ts">
  import FormButton from '../shell/FormButton.svelte';

  interface Props {
    /** What was taken away; `fields` tell the action `away` which it is. */
    gone: { id: string; title: string; fields: Record<string, string> }[];
    /** Pages that were moved into another course, to be brought back by the action `bringBack`. */
    moved?: { id: string; title: string; to: string }[];
  }
  let { gone, moved = [] }: Props = $props();
</script>

{#if gone.length + moved.length > 0}
  <details class="mt-6">
    <summary class="text-ink2">Removed · {gone.length + moved.length}</summary>
    <ul class="mt-2">
      {#each gone as one (one.id)}
        <li class="flex items-center gap-3 border-b border-rule py-1.5">
          <span class="min-w-0 flex-1 truncate">{one.title}</span>
          <FormButton
            label="Restore"
            action="away"
            fields={{ ...one.fields, away: 'false' }}
            look="act act-small"
          />
        </li>
      {/each}
      {#each moved as one (one.id)}
        <li class="flex items-center gap-3 border-b border-rule py-1.5">
          <span class="min-w-0 flex-1 truncate"
            >{one.title} <span class="text-sm text-ink2">· moved to {one.to}</span></span
          >
          <FormButton
            label="Restore"
            action="bringBack"
            fields={{ page: one.id }}
            look="act act-small"
          />
        </li>
      {/each}
    </ul>
  </details>
{/if}
