<script lang="ts">
  import { untrack } from 'svelte';
  import { SaidAlong } from './said-along.svelte';
  import WithWords from './WithWords.svelte';

  interface Props {
    page: string;
    thread: string;
    text: string;
    field?: HTMLTextAreaElement;
    /** What goes with the words. */
    along: SaidAlong | null;
  }
  /** What one of the staff puts beside the words of an answer. */
  let { page, thread, text = $bindable(), field, along = $bindable() }: Props = $props();
  const here = untrack(() => new SaidAlong(page, thread));
  $effect(() => {
    along = here;
    return () => here.recorder.drop();
  });
</script>

<WithWords along={here} {field} bind:text />
