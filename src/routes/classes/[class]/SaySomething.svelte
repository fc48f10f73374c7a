<script lang="ts">
  import { untrack } from 'svelte';
  import { Draft } from '$ui/draft.svelte';
  import { send } from '$ui/send';
  import { confirmDone } from '$ui/shell/toasts.svelte';

  interface Props {
    /** A copy; its students are notified of what is said. */
    page: string;
  }
  let { page }: Props = $props();

  const draft = untrack(() => new Draft(`comment ${page}`));
  let open = $state(untrack(() => draft.text !== ''));
  let sending = $state(false);
  let trouble = $state('');

  async function say(event: SubmitEvent) {
    event.preventDefault();
    if (!draft.text.trim()) return;
    sending = true;
    trouble = '';
    try {
      await send(`/pages/${page}/threads`, { text: draft.text, anchor: null });
      draft.text = '';
      open = false;
      await confirmDone('Your comment is on the copy.');
    } catch (error) {
      trouble = `${error instanceof Error ? error.message : ''} What you typed is still here.`;
    } finally {
      sending = false;
    }
  }
</script>

{#if !open}
  <button class="act" onclick={() => (open = true)}>Say something</button>
{:else}
  <form class="basis-full" onsubmit={say}>
    <!-- svelte-ignore a11y_autofocus (it was asked for just now) -->
    <textarea
      class="field"
      rows="2"
      aria-label="Comment on the whole copy"
      placeholder="Comment"
      autofocus
      bind:value={draft.text}></textarea>
    <div class="mt-1 flex gap-2">
      <button class="act act-small act-main" disabled={sending || !draft.text.trim()}
        >Add comment</button
      >
      <button type="button" class="act act-small" onclick={() => (open = false)}>Cancel</button>
    </div>
    {#if trouble}<p class="trouble mt-2" role="alert">{trouble}</p>{/if}
  </form>
{/if}
