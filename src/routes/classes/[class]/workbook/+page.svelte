<script lang="ts">
  import Workbook from './Workbook.svelte';

  let { data, form } = $props();
</script>

<Workbook {data} sentence={form?.sentence} />
