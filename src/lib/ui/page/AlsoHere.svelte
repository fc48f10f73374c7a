<script lang="ts">
  import { onMount, untrack } from 'svelte';
  import { page as view } from '$app/state';
  import { listed } from '$core/lists/listed';
  import type { EditorView } from 'prosemirror-view';
  import type { PageSession } from './page-session.svelte';
  import { Presence } from './presence.svelte';

  interface Props {
    session: PageSession;
    view: EditorView | null;
  }
  let { session, view: editor }: Props = $props();
  /** So many are named. */
  const MOST = 4;
  const presence = untrack(() => new Presence(session, view.data.person?.id ?? ''));
  onMount(() => presence.enter());
  $effect(() => (editor ? presence.drawIn(editor) : undefined));
  $effect(() => {
    void session.state.selection;
    presence.moved();
  });
  const others = $derived(presence.names.length - MOST);
  const says = $derived(
    listed([
      ...presence.names.slice(0, MOST),
      ...(others > 0 ? [others === 1 ? '1 other' : `${others} others`] : []),
    ]),
  );
</script>

<p class="text-sm text-ink2" role="status">
  {#if presence.names.length > 0}Also here: {says}{/if}
</p>
