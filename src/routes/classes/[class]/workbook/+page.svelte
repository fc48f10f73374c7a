<script lang="ts">
  import ArchiveFile from '$ui/archive/ArchiveFile.svelte';
  import { followMaking } from '$ui/archive/follow-making';
  import FormButton from '$ui/shell/FormButton.svelte';
  import Workbook from './Workbook.svelte';

  let { data, form } = $props();
  $effect(() => followMaking(data.takeHome, 'uncia:work'));
</script>

<Workbook {data} me={data.person?.id ?? ''} sentence={form?.sentence}>
  <section class="mt-10 border-t border-rule pt-4" aria-labelledby="home">
    <h2 id="home" class="font-bold">Take it home</h2>
    <p class="text-sm text-ink2">
      All your work in {data.klass.name} in one file, a zip archive: every page opens in a browser, also
      without Uncia.
    </p>
    <ArchiveFile archive={data.takeHome} href="/classes/{data.klass.id}/workbook/take-home" />
    {#if data.takeHome === null || data.takeHome.finished !== null || data.takeHome.fault}<div
        class="mt-2"
      >
        <FormButton
          label={data.takeHome?.finished ? 'Make it again' : 'Make the file'}
          action="takeHome"
          fields={{}}
          look="act"
        />
      </div>{/if}
  </section>
</Workbook>
