<script lang="ts">
  import Story from '../Story.svelte';
  import Workbook from '../Workbook.svelte';

  let { data } = $props();
  const titles = $derived(
    new Map([...data.copies, ...data.pages].map((page) => [page.id, page.title])),
  );
</script>

<Workbook {data} me={data.person?.id ?? ''} sentence={undefined}>
  <Story weeks={data.story} {titles} now={data.now} timeZone={data.klass.time_zone} />
</Workbook>
