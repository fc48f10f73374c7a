<script lang="ts">
  import { goto } from '$app/navigation';
  import { page } from '$app/state';

  interface Props {
    klass: string;
    /** Whether this person leads the class. */
    leads: boolean;
  }
  let { klass, leads }: Props = $props();

  const views = $derived(
    [
      { title: 'Board', path: '', key: 'b', all: true },
      { title: 'Gradebook', path: '/gradebook', key: 'k', all: true },
      { title: 'Plan', path: '/plan', key: 'p', all: true },
      { title: 'Roster', path: '/roster', key: 'r', all: false },
      { title: 'Groups', path: '/groups', key: 'o', all: false },
      { title: 'Set-up', path: '/set-up', key: 's', all: false },
    ].filter(({ all }) => all || leads),
  );
  const to = (path: string) => `/classes/${klass}${path}`;

  /** When `g` was pressed last; the letter after it says where to. */
  let pressed = 0;
  function onkeydown(event: KeyboardEvent) {
    const target = event.target instanceof HTMLElement ? event.target : null;
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    if (target?.closest('input, textarea, select, [contenteditable="true"]')) return;
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
  </ul>
</nav>
