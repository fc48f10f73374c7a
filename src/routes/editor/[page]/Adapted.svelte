<script lang="ts">
  import { Node } from 'prosemirror-model';
  import type { EditorView } from 'prosemirror-view';
  import { untrack } from 'svelte';
  import { piecesOf, applyPiece, type Piece } from '$core/history/apply-piece';
  import { textOf } from '$core/page/parts';
  import { schema } from '$core/page/schema';
  import type { PageSession } from '$ui/page/page-session.svelte';
  import { enhance } from '$ui/refresh';

  interface Props {
    /** The original: as it was adapted, and as it is. */
    base: { id: string; title: string; version: number; was: object; is: object };
    session: PageSession;
    view: EditorView | null;
  }
  let { base, session, view }: Props = $props();

  const was = untrack(() => Node.fromJSON(schema, base.was));
  const is = untrack(() => Node.fromJSON(schema, base.is));
  let done: string[] = $state([]);
  const pieces = $derived(
    piecesOf(was, is, session.state.doc).filter(({ key }) => !done.includes(key)),
  );
  const excerptOf = (blocks: readonly Node[]) => {
    const text = blocks.map(textOf).join(' ').trim();
    return text.length > 160 ? `${text.slice(0, 157)}…` : text || 'something without words';
  };

  function apply(piece: Piece) {
    if (!view) return;
    view.dispatch(view.state.tr.step(applyPiece(piece, view.state.doc)).scrollIntoView());
    done = [...done, piece.key];
  }
</script>

<section class="mb-5 rounded-lg border border-plum bg-plum-pale p-4" aria-labelledby="adapts">
  <h2 id="adapts" class="font-bold">Adapts <a href="/editor/{base.id}">{base.title}</a></h2>
  {#if pieces.length === 0}
    <p class="text-sm">It has all that is new there.</p>
  {:else}
    <p class="text-sm">
      That has changed since, in {pieces.length === 1 ? 'one place' : `${pieces.length} places`}.
    </p>
    <ol class="mt-2 flex flex-col gap-3">
      {#each pieces as piece (piece.key)}
        <li class="border-t border-plum/30 pt-2 text-sm">
          {#if piece.was.length > 0}<p class="text-ink2 line-through">
              {excerptOf(piece.was)}
            </p>{/if}
          {#if piece.is.length > 0}<p class="font-bold">{excerptOf(piece.is)}</p>{:else}<p>
              is gone
            </p>{/if}
          {#if !piece.untouched && piece.mine.length > 0}<p class="mt-1">
              Here it is different: “{excerptOf(piece.mine)}”. Taking it over replaces that.
            </p>{/if}
          <div class="mt-1.5 flex gap-2">
            <button class="act act-small" onclick={() => apply(piece)}>Take over</button>
            <button class="act act-small act-plain" onclick={() => (done = [...done, piece.key])}
              >Leave as it is</button
            >
          </div>
        </li>
      {/each}
    </ol>
  {/if}
  {#if pieces.length === 0}
    <form method="POST" action="?/settled" use:enhance class="mt-2">
      <input type="hidden" name="version" value={base.version} />
      <button class="act act-small">Done with these changes</button>
    </form>
  {/if}
</section>
