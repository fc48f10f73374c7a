<script lang="ts">
  import { untrack } from 'svelte';
  import { saySpot } from '$core/attached/spot';
  import { waitedFor, type ThreadView } from '$core/copy/threads';
  import { Draft } from '../draft.svelte';
  import { when } from '$core/calendar/say-time';

  interface Props {
    thread: ThreadView;
    chosen: boolean;
    now: number;
    timeZone: string;
    mayComment: boolean;
    /** Whether one of the staff reads it. */
    isStaff: boolean;
    choose: () => void;
    say: (text: string) => Promise<boolean>;
    settle: (settled: boolean) => void;
  }
  let { thread, chosen, now, timeZone, mayComment, isStaff, choose, say, settle }: Props = $props();

  const draft = untrack(() => new Draft(`answer ${thread.id}`));
  const gone = $derived(thread.anchor !== null && thread.anchor.from === thread.anchor.to);
  /** What it stands on; empty for the whole copy. */
  const tied = $derived(
    [
      thread.quote &&
        `“${thread.quote.length > 60 ? `${thread.quote.slice(0, 58)}…` : thread.quote}”`,
      thread.on && saySpot(thread.on.spot, thread.on.name),
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

  async function send(event: SubmitEvent) {
    event.preventDefault();
    if (draft.text.trim() && (await say(draft.text))) draft.text = '';
  }
</script>

<article
  id="thread-{thread.id}"
  class={[
    'rounded-lg border border-l-4 border-rule border-l-ice bg-sheet px-3.5 py-2.5',
    chosen && 'bg-lamp-pale border-l-lamp',
    thread.settled && 'opacity-90',
  ]}
  aria-label="Comment on {tied || 'the whole copy'}"
>
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
    <p class="mt-1 break-words whitespace-pre-line">
      {comment.text}
      <span class="block text-xs text-ink2"
        >{comment.own ? 'you' : comment.by}, {when(comment.at, now, timeZone)}{comment.keptBack
          ? ' · goes with the copy when it is handed back'
          : ''}</span
      >
    </p>
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
        bind:value={draft.text}></textarea>
      {#if draft.text.trim()}<button class="act act-small act-main">Send</button>{:else}<button
          type="button"
          class="act act-small"
          onclick={() => settle(true)}>Settle</button
        >{/if}
    </form>
  {/if}
</article>
