<script lang="ts">
  import Copy from './Copy.svelte';

  let { data } = $props();
</script>

<!-- Another page is another session: nothing is carried over. -->
{#key data.page}<Copy {data} />{/key}
