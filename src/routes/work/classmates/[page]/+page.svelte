<script lang="ts">
  import { Node } from 'prosemirror-model';
  import { schema } from '$core/page/schema';
  import DecoratedPage from '$ui/history/DecoratedPage.svelte';
  import StudentScoring from '$ui/marking/StudentScoring.svelte';

  let { data } = $props();
  let scoring = $derived(data.scoring);
  const doc = $derived(Node.fromJSON(schema, data.doc));
  const whose = $derived(data.who ? `${data.who}’s copy` : 'A classmate’s copy');
  const left = $derived(data.others.filter(({ page, given }) => page !== data.page && !given));
  const isGiven = $derived(scoring.last !== null);
</script>

<main class="min-h-0 flex-1 overflow-auto px-4 py-4 max-sm:px-0">
  {#key data.page}
    <div
      class="mx-auto max-w-[52rem] border border-rule bg-(--page) px-9 pt-6 pb-10 max-sm:border-x-0 max-sm:px-7"
    >
      <p class="text-sm text-ink2">
        {whose}, as it was handed in{data.who ? '' : ', without names'}
      </p>
      <h1 class="font-page text-2xl font-semibold">{data.title}</h1>
      <div class="mt-1 pl-4"><DecoratedPage page={doc} label={whose} /></div>
      <StudentScoring
        page={data.page}
        what="classmates-scoring"
        title="Score this copy"
        says="Say what you see, and be kind. Your teacher reads it first; it goes back to whoever wrote this{data.who
          ? ', with your name'
          : ', without your name'}."
        bind:asked={scoring}
        writable
      />
      <p class="mt-5 flex flex-wrap items-center gap-3 border-t border-rule pt-4">
        {#if left[0]}<a
            class={['act', isGiven && 'act-main']}
            href="/work/classmates/{left[0].page}">Next copy to score</a
          >{/if}
        <a class="act act-plain" href="/work">My work</a>
      </p>
    </div>
  {/key}
</main>
