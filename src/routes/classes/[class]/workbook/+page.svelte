<script lang="ts">
  import Workbook from './Workbook.svelte';

  let { data, form } = $props();
</script>

<Workbook {data} me={data.person?.id ?? ''} sentence={form?.sentence} />
