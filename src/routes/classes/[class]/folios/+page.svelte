<script lang="ts">
  import { when } from '$core/calendar/say-time';
  import { counted } from '$core/lists/counted';
  import ClassViews from '$ui/shell/ClassViews.svelte';

  let { data } = $props();
  const begun = $derived(
    data.folios.filter(({ title, shown, hidden }) => title !== null || shown + hidden > 0),
  );
</script>

<main class="flex-1 overflow-auto px-5 py-3">
  {#if data.isStaff}<div class="flex flex-wrap items-center gap-x-6 gap-y-1">
      <p class="text-lg font-bold">{data.klass.name} {data.klass.title}</p>
      <ClassViews klass={data.klass.id} leads={data.leads} archived={data.klass.archived} />
    </div>{/if}
  <h1 class="mt-4 text-2xl font-bold">Folios of {data.klass.name}</h1>
  <p class="text-ink2">
    {data.isStaff
      ? 'Pages that students keep all year. You see all of them; classmates see the cover and what is shown.'
      : 'What your classmates show you.'}
  </p>
  <ul class="mt-4 max-w-4xl">
    {#each begun as one (one.student)}
      <li class="flex flex-wrap items-baseline gap-x-4 border-b border-rule py-2">
        <a
          class="flex min-w-0 flex-1 items-baseline gap-x-4 text-ink no-underline hover:text-spruce"
          href="/classes/{data.klass.id}/folios/{one.student}"
        >
          <span class="w-52 shrink-0 truncate">{one.name}</span>
          <span class="min-w-0 flex-1 truncate font-page text-lg font-semibold"
            >{one.title ?? 'without a cover'}</span
          >
        </a>
        <span class="text-sm text-ink2"
          >{data.isStaff
            ? `${one.shown} shown, ${one.hidden} hidden${one.changed === null ? '' : ` · ${when(one.changed, data.now, data.klass.time_zone)}`}`
            : counted(one.shown, 'page')}</span
        >
      </li>
    {:else}<li class="py-2 text-ink2">
        {data.isStaff ? 'Nobody has begun one yet.' : 'Nobody shows a folio yet.'}
      </li>{/each}
  </ul>
  {#if data.isStaff && begun.length > 0 && begun.length < data.folios.length}
    <p class="mt-3 max-w-4xl text-sm text-ink2">
      None yet: {data.folios
        .filter((one) => !begun.includes(one))
        .map(({ name }) => name)
        .join('; ')}.
    </p>
  {/if}
</main>
