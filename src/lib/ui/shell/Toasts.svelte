<script lang="ts" module>
  import { createToaster } from '@skeletonlabs/skeleton-svelte';

  export const toaster = createToaster({ placement: 'bottom', duration: 5000, max: 3 });
</script>

<script lang="ts">
  import X from '@lucide/svelte/icons/x';
  import { Toast } from '@skeletonlabs/skeleton-svelte';
</script>

<Toast.Group {toaster} class="z-50">
  {#snippet children(toast)}
    <Toast
      {toast}
      class="flex min-w-60 items-center gap-3 rounded-lg border border-rule bg-ink py-2 pr-2 pl-4 text-sheet shadow-sm"
    >
      <Toast.Message class="flex-1"><Toast.Title>{toast.title}</Toast.Title></Toast.Message>
      <Toast.CloseTrigger class="grid h-8 w-8 place-items-center rounded-md" aria-label="Close"
        ><X size={16} aria-hidden="true" /></Toast.CloseTrigger
      >
    </Toast>
  {/snippet}
</Toast.Group>
