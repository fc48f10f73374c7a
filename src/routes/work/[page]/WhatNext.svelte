<script lang="ts">
  import { waitedFor } from '$core/copy/threads';
  import { counted } from '$core/lists/counted';
  import { listed } from '$core/lists/listed';
  import type { ThreadStore } from '$ui/comments/thread-store.svelte';

  /** What a student can do with a copy that came back. */
  interface Props {
    store: ThreadStore;
  }
  let { store }: Props = $props();
  const questions = $derived(
    store.threads.filter((thread) => waitedFor(thread) === 'student').length,
  );
  const proposals = $derived(store.proposals?.open.length ?? 0);
  const next = $derived(
    listed([
      ...(questions > 0 ? [`answer ${counted(questions, 'question')}`] : []),
      ...(proposals > 0 ? [`decide ${counted(proposals, 'proposal')}`] : []),
    ]),
  );
</script>

{#if next}<p class="notice mb-3" role="status">
    <strong>Next:</strong>
    {next}. You can go on with this page, and hand it in again.
  </p>{:else}<p class="mb-3 text-sm text-ink2">
    You can go on with this page, and hand it in again.
  </p>{/if}
