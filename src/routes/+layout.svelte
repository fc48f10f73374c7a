<script lang="ts">
  import '../app.css';
  import { onMount } from 'svelte';
  import { page } from '$app/state';
  import Header from '$ui/shell/Header.svelte';
  import KeySheet from '$ui/shell/KeySheet.svelte';

  let { children, data } = $props();
  // Says that the view answers to clicks now, for whoever drives it from outside.
  onMount(() => document.documentElement.setAttribute('data-ready', ''));
  const title = $derived(page.data.trail?.at(-1)?.title ?? page.data.title);
</script>

<svelte:head><title>{title ? `${title} · Uncia` : 'Uncia'}</title></svelte:head>

<div class="flex h-full flex-col">
  {#if data.person}<Header person={data.person} unread={data.unread} /><KeySheet />{/if}
  {@render children()}
</div>
