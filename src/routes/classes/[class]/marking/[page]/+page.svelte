<script lang="ts">
  import Copy from './Copy.svelte';

  let { data, params } = $props();
</script>

<!-- Another student's copy is another page, another history, another margin: nothing is carried over. -->
{#key data.page}<Copy {data} klass={params.class} />{/key}
