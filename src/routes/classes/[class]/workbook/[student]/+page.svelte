<script lang="ts">
  import Workbook from '../Workbook.svelte';

  let { data } = $props();
</script>

<Workbook {data} me={data.person?.id ?? ''} sentence={undefined} />
