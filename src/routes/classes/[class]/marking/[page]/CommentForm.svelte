<script lang="ts">
  import { Selection } from 'prosemirror-state';
  import type { EditorView } from 'prosemirror-view';
  import { untrack, type Snippet } from 'svelte';
  import { saySpot } from '$core/attached/spot';
  import type { CopyRow } from '$core/copy/copy-row';
  import { hasFormula } from '$core/text/formulas';
  import CommentBox from '$ui/comments/CommentBox.svelte';
  import CommentText from '$ui/comments/CommentText.svelte';
  import type { ThreadStore } from '$ui/comments/thread-store.svelte';
  import { Draft } from '$ui/draft.svelte';
  import OnOff from '$ui/fields/OnOff.svelte';
  import { SaidAlong } from '$ui/comments/said-along.svelte';
  import WithWords from '$ui/comments/WithWords.svelte';

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
    /** What else can be put on the copy. */
    children?: Snippet;
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
    children,
  }: Props = $props();

  const draft = untrack(() => new Draft(`comment ${copy.id}`));
  let sending = $state(false);
  let staffOnly = $state(false);

  const along = untrack(() => new SaidAlong(copy.id));
  $effect(() => () => along.recorder.drop());

  /** The criterion, or where on something attached the comment goes, in words. */
  const tied = $derived.by(() => {
    const { picked, criterion } = store;
    if (criterion) return `the criterion ${criterion.title}`;
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
    if (sending) return;
    const fault = along.fault(draft.text);
    if (fault) store.sentence = fault;
    if (fault || !draft.text.trim()) return;
    sending = true;
    const { file } = along;
    const said = { text: draft.take(), keptBack: waits && !staffOnly, staffOnly, file };
    // What is written from here on is another comment.
    staffOnly = false;
    if (await store.begin(said, view, selected !== '')) {
      along.sentAlong();
      letGo();
    } else {
      draft.giveBack(said.text);
      staffOnly ||= said.staffOnly;
    }
    sending = false;
  }
</script>

<form onsubmit={begin}>
  <label class="label" for="saying"
    >{tied
      ? `On ${tied}`
      : selected
        ? `On “${selected}”`
        : 'On the whole copy; select words or a drawing to tie it to them'}</label
  >
  {#if tied}<button
      type="button"
      class="act act-small mb-1"
      onclick={() => (store.picked = store.criterion = null)}>Not on that</button
    >{/if}
  <CommentBox
    id="saying"
    blanks={{ name, work, words: selected }}
    submit={() => void begin()}
    bind:text={draft.text}
    bind:field
  />
  {#if hasFormula(draft.text)}<p class="mt-1 border-l-3 border-rule px-3 whitespace-pre-line">
      <CommentText text={draft.text} />
    </p>{/if}
  {#if draft.text.trim() || along.file}<div class="mt-2 flex items-center gap-3">
      <button class="act act-small act-main" disabled={sending}>Add comment</button>
      <OnOff says="For staff only" bind:on={staffOnly} />
    </div>{/if}
</form>
<WithWords {along} {field} {children} bind:text={draft.text} />
<div class="my-3 text-sm">
  <OnOff says="Send when the copy goes back" bind:on={waits} />
</div>
