<script lang="ts">
  import { goto } from '$app/navigation';
  import { page } from '$app/state';
  import { isWriting } from '../is-writing';

  interface Props {
    klass: string;
    /** Whether this person leads the class. */
    leads: boolean;
    /** Its term is closed: it is read, and nothing in it changes. */
    archived?: boolean;
  }
  let { klass, leads, archived = false }: Props = $props();

  const views = $derived(
    [
      { title: 'Board', path: '', key: 'b', shown: true },
      { title: 'Gradebook', path: '/gradebook', key: 'k', shown: true },
      { title: 'Plan', path: '/plan', key: 'p', shown: true },
      { title: 'Folios', path: '/folios', key: 'f', shown: true },
      { title: 'Roster', path: '/roster', key: 'r', shown: leads },
      { title: 'Groups', path: '/groups', key: 'o', shown: leads },
      { title: 'Set-up', path: '/set-up', key: 's', shown: leads },
      { title: 'Archive', path: '/archive', key: 'a', shown: archived },
    ].filter(({ shown }) => shown),
  );
  const to = (path: string) => `/classes/${klass}${path}`;

  /** When `g` was pressed last; the letter after it says where to. */
  let pressed = 0;
  function onkeydown(event: KeyboardEvent) {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    if (isWriting(event)) return;
    const view = views.find(({ key }) => key === event.key);
    if (event.key === 'g') pressed = event.timeStamp;
    else if (view && event.timeStamp - pressed < 1500) {
      event.preventDefault();
      pressed = 0;
      void goto(to(view.path));
    }
  }
</script>

<svelte:window {onkeydown} />
<nav aria-label="Views of the class">
  <ul class="flex flex-wrap gap-x-4 text-sm">
    {#each views as view (view.path)}
      {@const here = page.url.pathname === to(view.path)}
      <li>
        <a
          href={to(view.path)}
          aria-current={here ? 'page' : undefined}
          class={[
            'border-b-2 py-1 text-ink no-underline',
            here ? 'border-spruce font-bold' : 'border-transparent hover:border-rule',
          ]}>{view.title}</a
        >
      </li>
    {/each}
    {#if archived}<li class="py-1 text-ink2">archived, to read</li>{/if}
  </ul>
</nav>
