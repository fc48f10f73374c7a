<script lang="ts">
  import { onMount, untrack } from 'svelte';
  import { page as view } from '$app/state';
  import { listed } from '$core/lists/listed';
  import { Presence } from './presence.svelte';

  let { page }: { page: string } = $props();
  /** So many are named. */
  const MOST = 4;
  const presence = untrack(() => new Presence(page, view.data.person?.id ?? ''));
  onMount(() => presence.enter());
  const others = $derived(presence.names.length - MOST);
  const says = $derived(
    listed([
      ...presence.names.slice(0, MOST),
      ...(others > 0 ? [others === 1 ? '1 other' : `${others} others`] : []),
    ]),
  );
</script>

<p class="text-sm text-ink2" role="status">
  {#if presence.names.length > 0}Also here: {says}{/if}
</p>
