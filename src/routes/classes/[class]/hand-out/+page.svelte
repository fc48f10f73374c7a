<script lang="ts">
  import Begin from './Begin.svelte';
  import Fill from './Fill.svelte';

  let { data } = $props();
</script>

{#if data.begun}
  {#key data.id}<Fill {data} />{/key}
{:else}<Begin {data} />{/if}
