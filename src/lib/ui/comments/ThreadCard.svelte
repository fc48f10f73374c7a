<script lang="ts">
  import { untrack } from 'svelte';
  import { saySpot } from '$core/attached/spot';
  import { waitedFor, type CommentView, type ThreadView } from '$core/copy/threads';
  import { Draft } from '../draft.svelte';
  import CommentText from './CommentText.svelte';
  import type { SaidAlong } from './said-along.svelte';
  import SaidFile from './SaidFile.svelte';
  import { when } from '$core/calendar/say-time';

  interface Props {
    thread: ThreadView;
    page: string;
    chosen: boolean;
    now: number;
    timeZone: string;
    mayComment: boolean;
    /** Whether one of the staff reads it. */
    isStaff: boolean;
    choose: () => void;
    say: (said: { text: string; file: string | null }) => Promise<boolean>;
    settle: (settled: boolean) => void;
    /** Says in other words what its student does not have yet. */
    change: (comment: string, text: string) => Promise<boolean>;
    withdraw: (comment: CommentView) => void;
  }
  let {
    thread,
    page,
    chosen,
    now,
    timeZone,
    mayComment,
    isStaff,
    choose,
    say,
    settle,
    change,
    withdraw,
  }: Props = $props();

  const draft = untrack(() => new Draft(`answer ${thread.id}`));
  const gone = $derived(thread.anchor !== null && thread.anchor.from === thread.anchor.to);
  /** What it stands on; empty for the whole copy. */
  const tied = $derived(
    [
      thread.quote &&
        `“${thread.quote.length > 60 ? `${thread.quote.slice(0, 58)}…` : thread.quote}”`,
      thread.on && saySpot(thread.on.spot, thread.on.name),
      thread.criterion && `the criterion ${thread.criterion.title}`,
    ]
      .filter(Boolean)
      .join(' · '),
  );
  const said = $derived(thread.comments.filter((comment) => comment.kind === 'said'));

  /** For whose answer it waits, as its reader sees it. */
  const waits = $derived.by(() => {
    const whose = waitedFor(thread);
    if (whose === null) return '';
    if (whose === 'student') return isStaff ? 'waits for the student' : 'waits for your answer';
    return isStaff ? 'waits for your answer' : 'waits for your teacher';
  });

  let field: HTMLTextAreaElement | undefined = $state();
  /** Whether an answer is written here. */
  let replying = $state(false);
  /** What goes with its words. */
  let along: SaidAlong | null = $state.raw<SaidAlong | null>(null);
  let sentence = $state('');
  async function send(event: SubmitEvent) {
    event.preventDefault();
    sentence = along?.fault(draft.text) ?? '';
    if (sentence || !draft.text.trim()) return;
    const text = draft.take();
    if (await say({ text, file: along?.file ?? null })) along?.sentAlong();
    else draft.giveBack(text);
  }
</script>

<article
  id="thread-{thread.id}"
  class={[
    'rounded-lg border border-l-4 border-rule border-l-ice bg-sheet px-3.5 py-2.5',
    chosen && 'bg-lamp-pale border-l-lamp',
    thread.settled && 'opacity-90',
  ]}
  aria-label="{thread.stamp ? 'Stamp' : 'Comment'} on {tied || 'the whole copy'}"
>
  {#if thread.stamp}{@const stamp =
      thread.stamp}{#await import('../stamps/StampPicture.svelte') then { default: StampPicture }}<span
        class="float-right"><StampPicture {stamp} /></span
      >{/await}{/if}
  {#if tied}
    <button
      class="block min-h-6 text-left text-sm text-ink2"
      onclick={choose}
      aria-pressed={chosen}
    >
      {gone ? 'on words that are gone:' : 'on'}
      {tied}
    </button>
  {/if}
  {#each said as comment (comment.id)}
    <div class="mt-1 break-words whitespace-pre-line">
      <CommentText text={comment.text} />
      {#if comment.file}<SaidFile
          file={comment.file}
          source="/pages/{page}/said-with/{comment.id}"
          says={comment.text}
        />{/if}
      <span class="block text-xs text-ink2"
        >{comment.own ? 'you' : comment.by}, {when(comment.at, now, timeZone)}{comment.keptBack
          ? ' · goes with the copy when it is handed back'
          : ''}</span
      >
      {#if comment.keptBack && comment.own && mayComment && !thread.settled}{#await import('./KeptBackDeeds.svelte') then { default: KeptBackDeeds }}<KeptBackDeeds
            {comment}
            change={(text) => change(comment.id, text)}
            withdraw={() => withdraw(comment)}
          />{/await}{/if}
    </div>
  {/each}
  {#if thread.staffOnly}<p class="mt-1 text-xs font-bold text-ink2">for staff only</p>{/if}
  {#if waits}<p class="mt-1 text-xs font-bold text-ink2">{waits}</p>{/if}
  {#if thread.settled}
    <p class="mt-1 flex items-center justify-between text-sm text-ink2">
      settled {#if mayComment}<button class="act act-small act-plain" onclick={() => settle(false)}
          >Open again</button
        >{/if}
    </p>
  {:else if mayComment}
    <form class="mt-2 flex items-end gap-2" onsubmit={send}>
      <textarea
        class="field min-h-9 flex-1 resize-none py-1.5 text-sm"
        rows={draft.text.includes('\n') || draft.text.length > 40 ? 3 : 1}
        placeholder="Reply"
        aria-label="Reply"
        onfocus={() => (replying = true)}
        bind:this={field}
        bind:value={draft.text}></textarea>
      {#if draft.text.trim() || along?.isMore}<button class="act act-small act-main">Send</button
        >{:else}<button type="button" class="act act-small" onclick={() => settle(true)}
          >Settle</button
        >{/if}
    </form>
    {#if sentence}<p class="trouble mt-1" role="alert">{sentence}</p>{/if}
    {#if isStaff && (replying || draft.text)}{#await import('./ReplyWith.svelte') then { default: ReplyWith }}<ReplyWith
          {page}
          thread={thread.id}
          {field}
          bind:text={draft.text}
          bind:along
        />{/await}{/if}
  {/if}
</article>
