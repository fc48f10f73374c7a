<script lang="ts">
  import { page } from '$app/state';

  const VIEWS = [
    ['People', '/school'],
    ['Calendar', '/school/calendar'],
    ['Background work', '/school/work'],
  ] as const;
</script>

<nav aria-label="Views of the school">
  <ul class="flex gap-x-4 text-sm">
    {#each VIEWS as [title, to] (to)}
      {@const here = page.url.pathname === to}
      <li>
        <a
          href={to}
          aria-current={here ? 'page' : undefined}
          class={[
            'border-b-2 py-1 text-ink no-underline',
            here ? 'border-spruce font-bold' : 'border-transparent hover:border-rule',
          ]}>{title}</a
        >
      </li>
    {/each}
  </ul>
</nav>
