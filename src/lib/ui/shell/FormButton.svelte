<script lang="ts">
  import { enhance } from '$ui/refresh';

  interface Props {
    label: string;
    /** What else a screen reader hears, where the label alone says too little. */
    about?: string;
    /** The action of this view that the button asks for, with what it is told. */
    action: string;
    fields: Record<string, string>;
    look?: string;
  }
  let { label, about = '', action, fields, look = '' }: Props = $props();
</script>

<form method="POST" action="?/{action}" use:enhance>
  {#each Object.entries(fields) as [name, value] (name)}
    <input type="hidden" {name} {value} />
  {/each}
  <button class={look}
    >{label}{#if about}<span class="sr-only"> {about}</span>{/if}</button
  >
</form>
