<script lang="ts">
  import Bar from '$ui/fields/Bar.svelte';
  import FileField from '$ui/fields/FileField.svelte';
  import { followMaking } from '$ui/archive/follow-making';
  import { bringArchive } from '$ui/archive/bring-archive';
  import { readAgain } from '$ui/refresh';

  let { data } = $props();
  let trouble = $state('');
  /** How much of a file is on its way; null while none is. */
  let sent = $state<{ done: number; total: number } | null>(null);
  const opening = $derived(data.brought.find(({ finished }) => finished === null) ?? null);
  $effect(() => followMaking(opening, 'uncia:brought'));

  async function bring([file]: File[]) {
    if (!file) return;
    trouble = '';
    sent = { done: 0, total: 1 };
    try {
      await bringArchive(file, (done, total) => (sent = { done, total }));
      await readAgain('uncia:brought');
    } catch (error) {
      trouble = error instanceof Error ? error.message : '';
    }
    sent = null;
  }
</script>

<main class="min-w-0 flex-1 overflow-auto px-5 py-5">
  <div class="mx-auto max-w-3xl">
    <h1 class="text-2xl font-bold">Open an archive</h1>
    <p class="text-ink2">
      An archive of a class that Uncia made, here or in another school, comes back as an archived
      class: to be read, and to build the next class from. Who is in it and known to this school, by
      the office’s number or by e-mail, is the same person; all others stand as names.
    </p>
    <div class="mt-4">
      <FileField
        label="The archive, a .zip file"
        accept={['.zip']}
        busy={sent !== null}
        progress={sent}
        onfiles={(files) => void bring(files)}
      />
    </div>
    {#if trouble}<p class="trouble mt-3" role="alert">{trouble}</p>{/if}
    {#if data.brought.length > 0}
      <ul class="mt-6 border border-rule bg-sheet">
        {#each data.brought as one (one.id)}
          <li class="border-b border-rule px-4 py-2.5 last:border-b-0">
            <p class="font-bold wrap-anywhere">{one.name}</p>
            {#if one.fault && one.finished}<p class="text-sm text-rust">{one.fault}</p>
            {:else if one.finished && one.class}<p class="text-sm">
                <a href="/classes/{one.class}/archive">{one.className} {one.title}</a> is open to be read.
              </p>
            {:else}<div role="status">
                <p class="text-sm text-ink2">
                  It is being opened. You can leave; it goes on by itself.
                </p>
                <Bar label="How far it is" done={one.done} total={one.total} />
              </div>{/if}
          </li>
        {/each}
      </ul>
    {/if}
  </div>
</main>
