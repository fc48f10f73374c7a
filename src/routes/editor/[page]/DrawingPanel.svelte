<script lang="ts">
  import X from '@lucide/svelte/icons/x';
  import type { Node } from 'prosemirror-model';
  import type { EditorView } from 'prosemirror-view';
  import type { AnswerKey } from '$core/marking/answer-key';
  import { piecesOf, spotsOf } from '$core/page/drawing';
  import { schema } from '$core/page/schema';
  import FileField from '$ui/fields/FileField.svelte';
  import { uploadPicture } from '$ui/page/paste';

  interface Props {
    view: EditorView;
    node: Node;
    pos: number;
    keyOf: AnswerKey | null;
    save: (key: () => AnswerKey | null) => void;
    setAttribute: (name: string, to: unknown) => void;
    warn: (sentence: string) => void;
  }
  /** What is drawn on, and what is put where. */
  let { view, node, pos, keyOf, save, setAttribute, warn }: Props = $props();

  const spots = $derived(spotsOf(node));
  const pieces = $derived(piecesOf(node));
  const places = $derived(keyOf?.kind === 'pieces' ? keyOf.places : {});
  let busy = $state(false);
  let name = $state('');

  async function take([file]: File[]) {
    if (!file) return;
    busy = true;
    try {
      const { width, height } = await createImageBitmap(file);
      const hash = await uploadPicture(file);
      const { tr } = view.state;
      tr.setNodeAttribute(pos, 'file', hash);
      tr.setNodeAttribute(pos, 'height', clamp((1000 * height) / width));
      view.dispatch(tr);
      warn('');
    } catch (error) {
      const known = error instanceof Error && !(error instanceof DOMException);
      warn(known ? error.message : 'This file is no picture that can be shown.');
    } finally {
      busy = false;
    }
  }
  const clamp = (height: number) => Math.min(3000, Math.max(100, Math.round(height) || 600));

  /** Where a piece stands in the page. */
  const placeOf = (piece: Node) =>
    pos +
    1 +
    node.children
      .slice(0, node.children.indexOf(piece))
      .reduce((sum, { nodeSize }) => sum + nodeSize, 0);
  function addPiece(event: SubmitEvent) {
    event.preventDefault();
    const text = name.trim();
    if (!text) return;
    const id = crypto.randomUUID().slice(0, 8);
    const at = pos + 1 + spots.length + pieces.length;
    view.dispatch(view.state.tr.insert(at, schema.nodes.piece.create({ id, text })));
    name = '';
  }
  function remove(piece: Node) {
    const at = placeOf(piece);
    view.dispatch(view.state.tr.delete(at, at + 1));
    if (places[piece.attrs.id]) belongs(piece.attrs.id, '');
  }
  const rename = (piece: Node, text: string) =>
    text.trim() &&
    view.dispatch(view.state.tr.setNodeAttribute(placeOf(piece), 'text', text.trim()));
  function belongs(piece: string, spot: string) {
    save(() => {
      const next = Object.fromEntries(
        Object.entries({ ...places, [piece]: spot }).filter(([, where]) => where !== ''),
      );
      return Object.keys(next).length > 0 ? { kind: 'pieces', places: next } : null;
    });
  }
</script>

<div class="mt-3">
  <span class="label">Picture to draw on</span>
  <FileField
    label={node.attrs.file ? 'Another picture' : 'Choose a picture'}
    accept={['.png', '.jpg', '.jpeg', '.gif', '.webp']}
    {busy}
    onfiles={take}
  />
  {#if node.attrs.file}<button
      class="act act-small act-plain mt-1"
      onclick={() => setAttribute('file', '')}>Remove the picture</button
    >{:else}<label class="mt-2 block"
      ><span class="label">Height, in hundredths of its width</span>
      <input
        class="field"
        type="number"
        min="10"
        max="300"
        value={Math.round(node.attrs.height / 10)}
        onchange={({ currentTarget }) =>
          setAttribute('height', clamp(Number(currentTarget.value) * 10))}
      /></label
    >{/if}
  <label class="mt-2 block"
    ><span class="label">What it shows, for whoever cannot see it</span>
    <input
      class="field"
      maxlength="1000"
      value={node.attrs.alt}
      onchange={({ currentTarget }) => setAttribute('alt', currentTarget.value.trim())}
    /></label
  >
</div>
<fieldset class="mt-3">
  <legend class="label">Pieces to be moved</legend>
  {#each pieces as piece (piece.attrs.id)}
    <div class="mb-1 flex items-center gap-1">
      <input
        class="field min-w-0 flex-1 py-1"
        aria-label="Text of the piece {piece.attrs.text}"
        maxlength="100"
        value={piece.attrs.text}
        onchange={({ currentTarget }) => rename(piece, currentTarget.value)}
      />
      {#if spots.length > 0}<select
          class="field w-28 py-1"
          aria-label="Where {piece.attrs.text} belongs"
          value={places[piece.attrs.id] ?? ''}
          onchange={({ currentTarget }) => belongs(piece.attrs.id, currentTarget.value)}
        >
          <option value="">no key</option>
          {#each spots as spot, index (spot.attrs.id)}<option value={spot.attrs.id}
              >place {index + 1}</option
            >{/each}
        </select>{/if}
      <button
        class="act act-small act-plain"
        aria-label="Remove the piece {piece.attrs.text}"
        onclick={() => remove(piece)}><X size={15} aria-hidden="true" /></button
      >
    </div>
  {/each}
  <form class="flex gap-1" onsubmit={addPiece}>
    <input
      class="field min-w-0 flex-1 py-1"
      aria-label="New piece"
      maxlength="100"
      bind:value={name}
    />
    <button class="act act-small" disabled={!name.trim()}>Add piece</button>
  </form>
</fieldset>
<p class="mt-2 text-xs text-ink2">
  Places for pieces are put onto the drawing itself, with the pin above it. What you draw and label
  there stays as it is for students, while the page’s text is guarded.
</p>
