<script lang="ts">
  import { columnKey, gradeRows } from '$core/grades/gradebook';
  import { Clock } from '$ui/clock.svelte';
  import GradeSums from '$ui/grades/GradeSums.svelte';
  import { aboutClasses, refreshOnNews } from '$ui/refresh';

  let { data } = $props();
  const clock = new Clock();
  $effect(() => clock.run(60_000));
  const aboutClass = aboutClasses(() => [data.klass.id]);
  refreshOnNews(
    'uncia:points',
    (heard) =>
      aboutClass(heard) ||
      (heard !== 'resync' &&
        heard.some((one) => one.kind === 'copy' && one.row.class === data.klass.id)),
  );
  const row = $derived(gradeRows(data, data.copies, [data.me], clock.now).get(data.me));
  const linkOf = (id: string) => {
    const copy = data.copies.find((one) => columnKey(one) === id);
    return copy && data.inSight.includes(copy.id) ? `/work/${copy.id}` : null;
  };
</script>

<main class="mx-auto w-full max-w-2xl flex-1 overflow-auto px-5 py-6">
  <h1 class="text-2xl font-bold">My points</h1>
  <p class="text-ink2">{data.klass.name} {data.klass.title}</p>
  <p class="mt-2 text-sm text-ink2">
    What your teacher has handed back. {data.rules.missing === 'zero'
      ? 'What is missing counts as zero.'
      : 'What is missing does not count.'}
  </p>
  <h2 class="mt-5 font-bold">How it comes about</h2>
  {#if row}<GradeSums line={row.line} rules={data.rules} {linkOf} />{/if}
</main>
