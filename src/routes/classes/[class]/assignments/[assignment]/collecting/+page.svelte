<script lang="ts">
  import { untrack } from 'svelte';
  import type { CollectedNow } from '$server/collecting/collect';
  import { grouped } from '$core/lists/grouped';
  import { counted } from '$core/lists/counted';
  import Bar from '$ui/fields/Bar.svelte';
  import FileField from '$ui/fields/FileField.svelte';
  import OnOff from '$ui/fields/OnOff.svelte';
  import { aboutClasses, readAgain, refreshOnNews } from '$ui/refresh';
  import { send } from '$ui/send';
  import ClassViews from '$ui/shell/ClassViews.svelte';
  import { confirmDone } from '$ui/shell/toasts.svelte';
  import UnderwayList from '$ui/attached/UnderwayList.svelte';
  import { Uploads } from '$ui/attached/uploads.svelte';
  import Files from './Files.svelte';
  import Holders from './Holders.svelte';

  let { data } = $props();
  const uploads = untrack(() => new Uploads(`${data.at}/uploads`, () => soon()));
  const again = () => readAgain('uncia:collecting');
  let waiting: ReturnType<typeof setTimeout> | null = null;
  /** Of many files that arrive one after the other it is read once. */
  function soon() {
    waiting ??= setTimeout(() => {
      waiting = null;
      void again();
    }, 300);
  }
  let handIn = $state(true);
  let busy = $state(false);
  let trouble = $state('');
  /** How far the collecting is. */
  let under: { done: number; total: number } | null = $state(null);

  const of = $derived((...standings: string[]) =>
    data.files.filter(({ standing }) => standings.includes(standing)),
  );
  const found = $derived(of('found'));
  const students = $derived(new Set(found.map(({ whose }) => whose)).size);
  const isApart = $derived(of('being taken apart').length > 0);
  const without = $derived(
    data.students.filter(({ id }) => !found.some(({ whose }) => whose === id)).length,
  );
  refreshOnNews(
    'uncia:collecting',
    aboutClasses(() => [data.klass.id]),
  );
  $effect(() => {
    if (!isApart) return;
    const timer = setInterval(() => void again(), 1000);
    return () => clearInterval(timer);
  });

  /** Does something with collected files, and reads how they stand then. @returns null when it was refused */
  async function move<Answer>(asked: object): Promise<Answer | null> {
    busy = true;
    trouble = '';
    try {
      return await send<Answer>(data.at, asked);
    } catch (error) {
      trouble = error instanceof Error ? error.message : '';
      return null;
    } finally {
      await again();
      busy = false;
    }
  }
  /** So many files go in one request, and it is seen how far it is. */
  const AT_ONCE = 40;
  async function collect() {
    // What is one student’s goes together.
    const portions: string[][] = [[]];
    for (const theirs of grouped(found, ({ whose }) => whose).values()) {
      if ((portions.at(-1)?.length ?? 0) >= AT_ONCE) portions.push([]);
      portions.at(-1)?.push(...theirs.map(({ id }) => id));
    }
    busy = true;
    trouble = '';
    under = { done: 0, total: found.length };
    const refused: string[] = [];
    let collected = 0;
    try {
      for (const files of portions) {
        const now = await send<CollectedNow>(data.at, { move: 'collect', files, handIn });
        collected += now.collected;
        refused.push(...now.refused.map(({ why }) => why));
        under.done += files.length;
      }
    } catch (error) {
      refused.push(error instanceof Error ? error.message : '');
    }
    trouble = refused.filter((why, index) => refused.indexOf(why) === index).join(' ');
    await again();
    busy = false;
    under = null;
    if (collected > 0) void confirmDone(`${counted(collected, 'file')} collected.`);
  }
</script>

<main class="min-w-0 flex-1 overflow-auto px-5 py-3">
  <div class="flex flex-wrap items-center gap-x-6 gap-y-1">
    <p class="text-lg font-bold">{data.klass.name} {data.klass.title}</p>
    <ClassViews klass={data.klass.id} leads />
  </div>
  <div class="mt-4 flex flex-wrap items-center gap-3">
    <h1 class="min-w-0 flex-1 text-2xl font-bold">Collecting · {data.title}</h1>
    <a class="act" href="{data.at}/sheets">Cover sheets …</a>
  </div>
  <p class="max-w-3xl text-ink2">
    For work that was made elsewhere: drop a folder’s zip archive, many files, or a scanned stack of
    paper. Each file goes to the student whose name, number or e-mail address it carries.
  </p>
  {#if trouble}<p class="trouble mt-3" role="alert">{trouble}</p>{/if}

  <div class="mt-3 max-w-xl">
    <UnderwayList {uploads} />
    <div class="mt-2">
      <FileField
        label="Files to collect"
        accept={[]}
        multiple
        onfiles={(files) => void uploads.add(files)}
      />
    </div>
  </div>

  <Holders files={of('being taken apart', 'taken apart')} {busy} {move} />

  {#if found.length > 0}
    <div class="mt-4 flex max-w-3xl flex-wrap items-center gap-x-5 gap-y-2">
      <button class="act act-main" disabled={busy} onclick={collect}
        >{busy ? 'Collecting …' : `Collect ${counted(found.length, 'file')}`}</button
      >
      <OnOff says="and hand them in" bind:on={handIn} />
      <p class="min-w-64 flex-1 text-sm text-ink2">
        {counted(found.length, 'file')} will be attached to the {students === 1 ? 'copy' : 'copies'} of
        {counted(students, 'student')}{handIn
          ? ', which will be handed in; what a student handed in already stays so'
          : ''}. Nothing is found here for {without === 0
          ? 'nobody else'
          : counted(without, 'student')}. It can be undone.
      </p>
    </div>
  {/if}

  {#if under && under.total > AT_ONCE}<div class="mt-2 max-w-3xl">
      <Bar label="Files that are collected" done={under.done} total={under.total} />
    </div>{/if}

  {#if of('doubtful', 'no copy').length > 0}
    <section class="mt-6" aria-labelledby="doubtful">
      <h2 id="doubtful" class="text-lg font-bold">To decide</h2>
      <Files files={of('doubtful', 'no copy')} {data} {busy} {move} />
    </section>
  {/if}
  {#if found.length > 0}
    <section class="mt-6" aria-labelledby="found">
      <h2 id="found" class="text-lg font-bold">Found</h2>
      <Files files={found} {data} {busy} {move} />
    </section>
  {/if}
  {#if of('collected').length > 0}
    <section class="mt-6" aria-labelledby="collected">
      <h2 id="collected" class="text-lg font-bold">Collected</h2>
      <Files files={of('collected')} {data} {busy} {move} />
    </section>
  {/if}
  {#if of('put aside').length > 0}
    <section class="mt-6" aria-labelledby="aside">
      <h2 id="aside" class="text-lg font-bold">Put aside</h2>
      <Files files={of('put aside')} {data} {busy} {move} />
    </section>
  {/if}
  {#if data.files.length === 0 && uploads.underway.length === 0}
    <p class="mt-6 text-ink2">Nothing was collected for it yet.</p>
  {/if}
</main>
