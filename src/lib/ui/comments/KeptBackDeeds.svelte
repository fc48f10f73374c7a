<script lang="ts">
  import { untrack } from 'svelte';
  import type { CommentView } from '$core/copy/threads';
  import { Draft } from '../draft.svelte';

  interface Props {
    comment: CommentView;
    /** Says it in other words. @returns whether they are kept */
    change: (text: string) => Promise<boolean>;
    withdraw: () => void;
  }
  /** What one does with one’s own words while their student does not have them. */
  let { comment, change, withdraw }: Props = $props();

  /** Its words as they are changed; none while they are not. */
  const draft = untrack(() => new Draft(`change of ${comment.id}`));
  /** Whether they are being changed in this view. */
  let changing = $state(false);
  const open = $derived(changing || draft.text !== '');
  let sending = $state(false);
  // What was left half-changed does not take the cursor when the copy is opened again.
  const focused = (node: HTMLElement) => {
    if (changing) node.focus();
  };

  function begin() {
    changing = true;
    draft.text = comment.text;
  }
  function end() {
    changing = false;
    draft.text = '';
  }
  async function save(event: SubmitEvent) {
    event.preventDefault();
    const words = draft.text.trim();
    if (!words || sending) return;
    if (words === comment.text) return end();
    sending = true;
    if (await change(words)) end();
    sending = false;
  }
</script>

{#if !open}
  <span class="flex gap-3 text-sm">
    {#if !comment.file}<button type="button" class="underline" onclick={begin}>Change</button>{/if}
    <button type="button" class="underline" onclick={withdraw}>Withdraw</button>
  </span>
{:else}
  <form class="mt-1" onsubmit={save}>
    <textarea
      class="field resize-none py-1.5 text-sm"
      rows="3"
      maxlength="5000"
      readonly={sending}
      aria-label="The comment in other words"
      onfocus={() => (changing = true)}
      bind:value={draft.text}
      onkeydown={(event) => {
        if (event.key === 'Escape') end();
        else if (event.key === 'Enter' && (event.ctrlKey || event.metaKey))
          event.currentTarget.form?.requestSubmit();
        else return;
        event.preventDefault();
        event.stopPropagation();
      }}
      {@attach focused}></textarea>
    <span class="mt-1 flex gap-2">
      <button class="act act-small act-main" disabled={!draft.text.trim() || sending}>Save</button>
      <button type="button" class="act act-small" onclick={end}>Cancel</button>
    </span>
  </form>
{/if}
