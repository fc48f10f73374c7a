<script lang="ts">
  import '../app.css';
  import { onMount, untrack } from 'svelte';
  import { beforeNavigate, goto } from '$app/navigation';
  import { page } from '$app/state';
  import { live } from '$ui/live.svelte';
  import { outbox } from '$ui/outbox/outbox';
  import { sendLeftoversAlong } from '$ui/outbox/send-leftovers';
  import { openStore } from '$ui/outbox/sealed-store';
  import { beTabOf } from '$ui/outbox/tab-person';
  import { viewsAreOf } from '$ui/outbox/kept-views';
  import { noteTime } from '$ui/server-time';
  import Header from '$ui/shell/Header.svelte';
  import KeySheet from '$ui/shell/KeySheet.svelte';
  import { toasts } from '$ui/shell/toasts.svelte';
  import { trail } from '$ui/shell/trail.svelte';

  let { children, data } = $props();
  // Before any view says what is due.
  noteTime(untrack(() => data.now));
  /** What is shown to the whole room shows nothing else. */
  const isRoom = $derived(page.route.id?.startsWith('/room/') ?? false);
  // Says that the view answers to clicks now, for whoever drives it from outside.
  onMount(() => document.documentElement.setAttribute('data-ready', ''));

  // Before any view looks for what its person left in this browser.
  $effect.pre(() => {
    if (data.person) openStore(data.person.id, data.person.seal);
  });
  // Of the person, not of the view's data: reading a view again begins nothing anew.
  const person = $derived(data.person?.id);
  $effect(() => {
    if (!person) return;
    const endTab = beTabOf(person);
    viewsAreOf(person);
    const endOutbox = outbox.start();
    const endLeftovers = sendLeftoversAlong();
    return () => {
      endTab();
      endOutbox();
      endLeftovers();
    };
  });

  // The next view shows what was typed here: it is asked for when the server has it.
  beforeNavigate(({ to, willUnload, cancel, type, delta }) => {
    live.viewAsked(type === 'link');
    if (willUnload || !to || !outbox.hasUnsent) return;
    cancel();
    void outbox.flush().then(() => (type === 'popstate' ? history.go(delta) : goto(to.url)));
  });
</script>

<svelte:head><title>{trail.title ? `${trail.title} · Uncia` : 'Uncia'}</title></svelte:head>

<!-- Under a header the views scroll in themselves: what is only read out does not make the whole page longer. -->
<div
  class={[
    'flex h-full flex-col print:block print:h-auto',
    data.person && 'relative overflow-clip print:overflow-visible',
  ]}
>
  {#if data.person && !isRoom}<Header person={data.person} unread={data.unread} /><KeySheet />{/if}
  {@render children()}
  {#if toasts.Group}<toasts.Group />{/if}
</div>
