<script lang="ts">
  import { Dialog, Portal } from '@skeletonlabs/skeleton-svelte';
  import { tick, type Snippet } from 'svelte';

  interface Props {
    open: boolean;
    /** Its heading; what a screen reader hears of it. */
    title: string;
    /** Without a heading to be seen and without a margin, near the top. */
    bare?: boolean;
    /** As wide as a page. */
    wide?: boolean;
    /** Where the focus goes afterwards, if not to what opened it. */
    backTo?: () => HTMLElement;
    children: Snippet;
  }
  let { open = $bindable(), title, bare = false, wide = false, backTo, children }: Props = $props();

  // What it shows goes once the dialog has let go of the focus, not before: it would have nothing to hold.
  let isThere = $state(false);
  $effect.pre(() => {
    if (open) isThere = true;
    else void tick().then(() => (isThere = open));
  });
</script>

<Dialog {open} onOpenChange={(change) => (open = change.open)} finalFocusEl={backTo}>
  {#if isThere}
    <Portal>
      <Dialog.Backdrop class="fixed inset-0 z-40 bg-ink/35" />
      <Dialog.Positioner
        class={[
          'fixed inset-0 z-40 grid grid-cols-[minmax(0,1fr)] justify-items-center overflow-auto p-4',
          bare ? 'content-start pt-[10vh]' : 'content-center',
        ]}
      >
        <Dialog.Content
          class={[
            'w-full rounded-xl border border-rule bg-sheet text-ink',
            bare
              ? 'flex max-h-[75vh] max-w-2xl flex-col overflow-hidden'
              : wide
                ? 'max-w-4xl p-6'
                : 'max-w-lg p-6',
          ]}
        >
          <Dialog.Title class={bare ? 'sr-only' : 'text-lg font-bold'}>{title}</Dialog.Title>
          {@render children()}
        </Dialog.Content>
      </Dialog.Positioner>
    </Portal>
  {/if}
</Dialog>
