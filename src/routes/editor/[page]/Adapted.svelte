<script lang="ts">
  import { Node } from 'prosemirror-model';
  import type { EditorView } from 'prosemirror-view';
  import { untrack } from 'svelte';
  import { piecesOf, applyPiece, type Piece } from '$core/history/apply-piece';
  import {
    keyChanges,
    optionsOf,
    sayKey,
    type KeyChange,
    type Keys,
  } from '$core/marking/key-changes';
  import { textOf } from '$core/page/parts';
  import { isAnswer, schema } from '$core/page/schema';
  import type { PageSession } from '$ui/page/page-session.svelte';
  import { enhance } from '$ui/refresh';
  import { send } from '$ui/send';

  interface Props {
    page: string;
    /** The original: as it was adapted, and as it is. */
    base: {
      id: string;
      title: string;
      version: number;
      since: number;
      was: object;
      is: object;
      keys: { was: Keys; is: Keys };
      left: string[];
    };
    session: PageSession;
    view: EditorView | null;
    /** What this page expects in its parts. */
    keys: Keys;
    kept: (keys: Keys) => void;
  }
  let { page, base, session, view, keys, kept }: Props = $props();

  const was = untrack(() => Node.fromJSON(schema, base.was));
  const is = untrack(() => Node.fromJSON(schema, base.is));
  let trouble = $state('');
  /** Taken over, and still not told from what is not: where equal blocks stand side by side. */
  let taken: string[] = $state([]);
  const isOffered = ({ key }: { key: string }) => !base.left.includes(key) && !taken.includes(key);
  const all = $derived(piecesOf(was, is, session.state.doc));
  const pieces = $derived(all.filter(isOffered));
  const inPage = $derived(session.parts.map(({ id }) => id));
  const changes = $derived(keyChanges(base.keys.was, base.keys.is, keys, inPage).filter(isOffered));
  const count = $derived(pieces.length + changes.length);

  const excerptOf = (blocks: readonly Node[]) => {
    const text = blocks.map(textOf).join(' ').trim();
    if (!text) return blocks.some(isAnswer) ? 'a place for an answer' : 'something without words';
    return text.length > 160 ? `${text.slice(0, 157)}…` : text;
  };
  const labelOf = (part: string) => session.parts.find(({ id }) => id === part)?.label ?? '';
  const say = (part: string, key: KeyChange['is']) =>
    sayKey(key, optionsOf(session.state.doc, part));

  async function bringKey(part: string, key: KeyChange['is']) {
    trouble = '';
    try {
      kept(await send<Keys>(`/pages/${page}/keys`, { part, key }, 'PUT'));
    } catch (error) {
      trouble = `The key is not here yet. ${error instanceof Error ? error.message : ''}`;
    }
  }
  /** A question comes with what is expected in it. */
  async function apply(piece: Piece) {
    if (!view) return;
    const before = all.length;
    view.dispatch(view.state.tr.step(applyPiece(piece, view.state.doc)).scrollIntoView());
    if (piecesOf(was, is, view.state.doc).length >= before) taken = [...taken, piece.key];
    const parts: string[] = [];
    for (const block of piece.is) {
      if (isAnswer(block)) parts.push(block.attrs.id);
      block.descendants((node) => void (isAnswer(node) && parts.push(node.attrs.id)));
    }
    for (const part of parts) if (base.keys.is[part]) await bringKey(part, base.keys.is[part]);
  }
</script>

{#snippet leave(key: string)}
  <form method="POST" action="?/leave" use:enhance>
    <input type="hidden" name="change" value={key} />
    <button class="act act-small act-plain">Leave as it is</button>
  </form>
{/snippet}

{#if base.version === base.since && count === 0 && base.left.length === 0}
  <p class="mb-4 text-sm">Adapts <a href="/editor/{base.id}">{base.title}</a>.</p>
{:else}
  <section class="mb-5 rounded-lg border border-plum bg-plum-pale p-4" aria-labelledby="adapts">
    <h2 id="adapts" class="font-bold">Adapts <a href="/editor/{base.id}">{base.title}</a></h2>
    {#if trouble}<p class="trouble mt-2 text-sm" role="alert">{trouble}</p>{/if}
    {#if count === 0}
      <p class="text-sm">
        {base.left.length > 0
          ? 'It has all that it is to have of what is new there.'
          : 'It has all that is new there.'}
      </p>
    {:else}
      <p class="text-sm">
        That has changed since, in {count === 1 ? 'one place' : `${count} places`}.
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
              {@render leave(piece.key)}
            </div>
          </li>
        {/each}
        {#each changes as change (change.key)}
          <li class="border-t border-plum/30 pt-2 text-sm">
            <p>The key of “{labelOf(change.part)}”</p>
            {#if change.was}<p class="text-ink2 line-through">
                {say(change.part, change.was)}
              </p>{/if}
            <p class="font-bold">{say(change.part, change.is)}</p>
            {#if change.mine}<p class="mt-1">
                Here it is {say(change.part, change.mine)}. Taking it over replaces that.
              </p>{/if}
            <div class="mt-1.5 flex gap-2">
              <button class="act act-small" onclick={() => bringKey(change.part, change.is)}
                >Take the key over</button
              >
              {@render leave(change.key)}
            </div>
          </li>
        {/each}
      </ol>
    {/if}
    <div class="mt-2 flex flex-wrap gap-2">
      {#if count === 0}
        <form method="POST" action="?/settled" use:enhance>
          <input type="hidden" name="version" value={base.version} />
          <input type="hidden" name="keys" value={JSON.stringify(base.keys.is)} />
          <button class="act act-small">Done with these changes</button>
        </form>
      {/if}
      {#if base.left.length > 0}
        <form method="POST" action="?/offer" use:enhance>
          <button class="act act-small act-plain">Offer again what was left as it is</button>
        </form>
      {/if}
    </div>
  </section>
{/if}
