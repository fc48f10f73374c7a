<script lang="ts">
  import type { EditorView } from 'prosemirror-view';
  import { onMount, untrack } from 'svelte';
  import HowWritten from '$ui/history/HowWritten.svelte';
  import AlsoHere from '$ui/page/AlsoHere.svelte';
  import { followPage } from '$ui/page/follow-page';
  import { pagePlugins } from '$ui/page/page-plugins';
  import { PageSession } from '$ui/page/page-session.svelte';
  import PageToolbar from '$ui/page/PageToolbar.svelte';
  import PageView from '$ui/page/PageView.svelte';
  import SaveWords from '$ui/page/SaveWords.svelte';
  import SetAside from '$ui/page/SetAside.svelte';
  import type { PageData } from './$types';

  let { data }: { data: PageData } = $props();
  let view: EditorView | null = $state(null);
  let trouble = $state('');
  const warn = (sentence: string) => (trouble = sentence);
  const session = untrack(
    () =>
      new PageSession({
        page: data.page,
        version: data.version,
        doc: data.doc,
        setAside: data.setAside,
        plugins: pagePlugins({ kind: 'reading', warn }),
      }),
  );
  onMount(() => followPage(session));
</script>

<main class="min-w-0 flex-1 overflow-auto px-4 py-4 lg:px-14">
  <div
    class="mx-auto min-h-full max-w-[52rem] border border-rule bg-(--page) px-9 py-6 max-sm:px-5"
  >
    <h1 class="font-page text-2xl font-semibold">{data.title}</h1>
    {#if data.mayTake}
      <form method="POST" action="?/take" class="mt-2">
        <button class="act act-small">Copy to my workbook</button>
      </form>
    {/if}
    {#if trouble || session.sentence}<p class="trouble mt-3" role="alert">
        {trouble || session.sentence}
      </p>{/if}
    {#if data.mayWrite}
      <div class="mt-2 flex flex-wrap items-center gap-3">
        <PageToolbar {session} {view} kind="copy" {warn} />
        <p class="text-sm text-ink2">
          {data.isOwn ? 'Your own page' : 'Everybody in the class writes here'} · <SaveWords
            {session}
            timeZone={data.timeZone}
          />
        </p>
      </div>
      {#if !data.isOwn}<AlsoHere {session} {view} />{/if}
      {#if session.setAside.length + session.kept.length > 0}<SetAside {session} {view} />{/if}
    {/if}
    <div class="mt-3">
      <PageView
        {session}
        label={data.title}
        editable={data.mayWrite}
        answering={data.mayWrite}
        bind:view
      />
    </div>
    {#if data.mayLookBack}<HowWritten at="/pages/{data.page}" flush={() => session.flush()} />{/if}
  </div>
</main>
