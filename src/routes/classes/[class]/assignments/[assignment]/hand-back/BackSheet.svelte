<script lang="ts">
  import { Node } from 'prosemirror-model';
  import { when } from '$core/calendar/say-time';
  import { writePoints } from '$core/marking/points';
  import { schema } from '$core/page/schema';
  import { sayProposal } from '$core/proposals/say-proposal';
  import type { HandBackSheet } from '$server/copy/hand-back-sheets';
  import { commentNumbers } from '$ui/comments/comment-numbers';
  import CommentText from '$ui/comments/CommentText.svelte';
  import SaidFile from '$ui/comments/SaidFile.svelte';
  import DecoratedPage from '$ui/history/DecoratedPage.svelte';
  import CheckedSheet from '$ui/marking/CheckedSheet.svelte';
  import FeedbackSheet from '$ui/marking/FeedbackSheet.svelte';
  import StampPicture from '$ui/stamps/StampPicture.svelte';

  interface Props {
    sheet: HandBackSheet;
    title: string;
    most: string | null;
    now: number;
    timeZone: string;
  }
  /** A copy with all that goes back with it, to be read or printed. */
  let { sheet, title, most, now, timeZone }: Props = $props();
  const page = $derived(Node.fromJSON(schema, sheet.doc));
  const decorations = $derived(commentNumbers(page, sheet.threads));
  const said = (comments: HandBackSheet['threads'][number]['comments']) =>
    comments.filter(({ kind }) => kind === 'said');
</script>

<article class="border border-rule bg-(--page) px-9 py-6 print:border-0 print:p-0">
  <p class="font-page text-2xl font-semibold">{title}</p>
  <p class="text-ink2">{sheet.names.join(', ')}</p>
  <div class="mt-2 pl-4">
    <DecoratedPage {page} label="{sheet.names.join(', ')}: {title}" {decorations} />
  </div>
  {#if sheet.threads.length > 0}
    <h2 class="mt-6 font-bold">Comments</h2>
    <ol class="mt-1">
      {#each sheet.threads as thread, index (thread.id)}
        <li class="grid grid-cols-[1.5rem_1fr] border-b border-rule py-1.5 break-inside-avoid">
          <strong>{index + 1}</strong>
          <div>
            {#if thread.stamp}<span class="float-right"><StampPicture stamp={thread.stamp} /></span
              >{/if}
            {#if thread.quote}<p class="text-sm text-ink2">on “{thread.quote}”</p>{/if}
            {#if thread.criterion}<p class="text-sm text-ink2">
                on the criterion {thread.criterion.title}
              </p>{/if}
            {#each said(thread.comments) as comment (comment.id)}<p class="whitespace-pre-line">
                <CommentText text={comment.text} />
                <span class="text-sm text-ink2"
                  >{comment.by}{comment.file?.as === 'sound' ? ', spoken' : ''}</span
                >
                {#if comment.file}<span class={[comment.file.as === 'sound' && 'print:hidden']}
                    ><SaidFile
                      file={comment.file}
                      source="/pages/{sheet.copy.id}/said-with/{comment.id}"
                      says={comment.text}
                    /></span
                  >{/if}
              </p>{/each}
          </div>
        </li>
      {/each}
    </ol>
  {/if}
  {#if sheet.proposals.length > 0}
    <h2 class="mt-6 font-bold">Proposals to take or leave</h2>
    <ul class="mt-1">
      {#each sheet.proposals as one (one.id)}
        {@const { before, words, after } = sayProposal(one)}
        <li class="border-b border-rule py-1.5">
          {before}<strong>{words ?? ''}</strong>{after}
          <span class="text-sm text-ink2">{one.by}</span>
        </li>
      {/each}
    </ul>
  {/if}
  {#if sheet.given?.scoring}<FeedbackSheet
      scoring={sheet.given.scoring}
      by={sheet.given.by}
      at={when(sheet.given.at, now, timeZone)}
      points={sheet.copy.points}
      {most}
    />{/if}
  {#if sheet.given?.checked}<CheckedSheet checked={sheet.given.checked} />{/if}
  <p class="mt-4 text-lg">
    {#if sheet.copy.points !== null}<strong
        >{writePoints(sheet.copy.points)}{most === null ? '' : ` of ${writePoints(most)}`} points</strong
      >{:else}No points{/if}
  </p>
</article>
