<script lang="ts">
  import Workbook from '../Workbook.svelte';

  let { data } = $props();
</script>

<Workbook {data} sentence={undefined} />
