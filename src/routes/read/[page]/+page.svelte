<script lang="ts">
  import Reading from './Reading.svelte';

  let { data } = $props();
</script>

<!-- Another page is another session: nothing is carried over. -->
{#key data.page}<Reading {data} />{/key}
