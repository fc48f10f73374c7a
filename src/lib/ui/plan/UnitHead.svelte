<script lang="ts">
  import Ellipsis from '@lucide/svelte/icons/ellipsis';
  import Lock from '@lucide/svelte/icons/lock-keyhole';
  import FormButton from '../shell/FormButton.svelte';
  import Menu from '../shell/Menu.svelte';
  import { enhance } from '$ui/refresh';
  import { clipboard } from './clipboard.svelte';

  interface Props {
    unit: { id: string; title: string };
    mayWrite: boolean;
    /** Of a class: whether it lies in the cupboard. */
    stored?: boolean;
    /** Puts down here what was taken up. */
    put: (unit: string) => void;
    note: () => void;
  }
  let { unit, mayWrite, stored, put, note }: Props = $props();
</script>

{#snippet state()}
  {#if stored}<span class="flex items-center gap-1.5 text-sm text-ink2"
      ><Lock size={16} aria-hidden="true" /> in the cupboard: staff only</span
    >{/if}
{/snippet}

{#if mayWrite}
  <form
    method="POST"
    action="?/unit"
    use:enhance={() =>
      ({ update }) =>
        update({ reset: false })}
    class="min-w-0 flex-1"
  >
    <input type="hidden" name="unit" value={unit.id} />
    <h2 class="sr-only">{unit.title}</h2>
    <input
      class="w-full border-0 border-b border-dashed border-transparent bg-transparent px-0 py-0.5 text-lg font-bold hover:border-rule focus:border-quiet"
      name="title"
      value={unit.title}
      aria-label="Title of the unit {unit.title}"
      maxlength="300"
      required
      onchange={(event) => event.currentTarget.form?.requestSubmit()}
    />
  </form>
  {@render state()}
  {#if clipboard.held}
    <button class="act act-small" onclick={() => put(unit.id)}
      >Paste here<span class="sr-only">, into {unit.title}</span></button
    >
  {/if}
  <Menu label="More about the unit {unit.title}">
    {#snippet button()}<Ellipsis size={18} aria-hidden="true" />{/snippet}
    <button onclick={note}>Add a note</button>
    {#if stored !== undefined}<FormButton
        label={stored ? 'Out of the cupboard' : 'Into the cupboard'}
        action="store"
        fields={{ unit: unit.id, stored: String(!stored) }}
      />{/if}
    <form method="POST" action="?/dropUnit" use:enhance>
      <input type="hidden" name="unit" value={unit.id} />
      <button>Remove unit</button>
    </form>
  </Menu>
{:else}
  <h2 class="flex-1 text-lg font-bold">{unit.title}</h2>
  {@render state()}
{/if}
