<script lang="ts">
  import Editor from './Editor.svelte';

  let { data, form } = $props();
</script>

<!-- Another page is another session: nothing is carried over. -->
{#key data.page}<Editor {data} {form} />{/key}
