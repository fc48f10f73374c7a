<script lang="ts">
  import { Selection } from 'prosemirror-state';
  import type { EditorView } from 'prosemirror-view';
  import { untrack } from 'svelte';
  import { saySpot } from '$core/attached/spot';
  import type { CopyRow } from '$core/copy/copy-row';
  import CommentBox from '$ui/comments/CommentBox.svelte';
  import type { ThreadStore } from '$ui/comments/thread-store.svelte';
  import { Draft } from '$ui/draft.svelte';
  import OnOff from '$ui/fields/OnOff.svelte';

  interface Props {
    store: ThreadStore;
    view: EditorView | null;
    copy: CopyRow;
    /** The words that are selected in the page, in a line; empty for none. */
    selected: string;
    /** The title of the assignment, and the student's first name: empty where several share the copy. */
    work: string;
    name: string;
    /** Whether what is written waits until the copy goes back. */
    waits: boolean;
    field?: HTMLTextAreaElement;
  }
  let {
    store,
    view,
    copy,
    selected,
    work,
    name,
    waits = $bindable(),
    field = $bindable(),
  }: Props = $props();

  const draft = untrack(() => new Draft(`comment ${copy.id}`));
  let sending = $state(false);
  let staffOnly = $state(false);

  /** Where on something attached the comment goes, in words. */
  const tied = $derived.by(() => {
    const { picked } = store;
    const one = copy.attached.find(({ id }) => id === picked?.attachment);
    if (!picked || !one) return '';
    return [picked.quote && `“${picked.quote.slice(0, 60)}”`, saySpot(picked.spot, one.name)]
      .filter(Boolean)
      .join(' · ');
  });

  /** What is said next is on the whole copy again, unless other words are selected. */
  function letGo() {
    if (!view) return;
    const { tr, selection } = view.state;
    const end = tr.doc.resolve(selection.to);
    const words = Selection.findFrom(end, -1, true) ?? Selection.findFrom(end, 1, true);
    if (words) view.dispatch(tr.setSelection(words));
  }
  async function begin(event?: SubmitEvent) {
    event?.preventDefault();
    if (!draft.text.trim() || sending) return;
    sending = true;
    const said = { text: draft.text, keptBack: waits && !staffOnly, staffOnly };
    if (await store.begin(said, view, selected !== '')) {
      // What was typed meanwhile is the next comment.
      if (draft.text === said.text) {
        draft.text = '';
        staffOnly = false;
      }
      letGo();
    }
    sending = false;
  }
</script>

<form class="mb-3" onsubmit={begin}>
  <label class="label" for="saying"
    >{tied
      ? `On ${tied}`
      : selected
        ? `On “${selected}”`
        : 'On the whole copy; select words or a drawing to tie it to them'}</label
  >
  {#if tied}<button type="button" class="act act-small mb-1" onclick={() => (store.picked = null)}
      >Not on that</button
    >{/if}
  <CommentBox
    id="saying"
    blanks={{ name, work, words: selected }}
    submit={() => void begin()}
    bind:text={draft.text}
    bind:field
  />
  {#if draft.text.trim()}<div class="mt-1 flex items-center gap-3">
      <button class="act act-small act-main" disabled={sending}>Add comment</button>
      <OnOff says="For staff only" bind:on={staffOnly} />
    </div>{/if}
</form>
<div class="mb-3 text-sm">
  <OnOff says="Send when the copy goes back" bind:on={waits} />
</div>
