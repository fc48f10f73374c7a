<script lang="ts">
  import { sayDate, sayTimeOfYear } from '$core/calendar/say-time';
  import { followMaking } from '$ui/archive/follow-making';
  import { aboutClasses, enhance, refreshOnNews, saving } from '$ui/refresh';
  import ClassViews from '$ui/shell/ClassViews.svelte';
  import FormButton from '$ui/shell/FormButton.svelte';
  import ArchiveFile from '$ui/archive/ArchiveFile.svelte';
  import ReadUntil from '../close/ReadUntil.svelte';

  let { data, form } = $props();
  const klass = $derived(data.klass);
  refreshOnNews(
    'uncia:archive',
    aboutClasses(() => [klass.id]),
  );
  $effect(() => followMaking(data.archive, 'uncia:archive'));
  const closed = $derived(data.events.find(({ kind }) => kind === 'archived'));
  let until = $derived(data.readUntil ?? '');
</script>

<main class="min-w-0 flex-1 overflow-auto px-5 py-3">
  <div class="flex flex-wrap items-center gap-x-6 gap-y-1">
    <p class="text-lg font-bold">{klass.name} {klass.title}</p>
    <ClassViews klass={klass.id} leads={false} archived />
  </div>
  <div class="mt-4 max-w-4xl">
    <h1 class="text-2xl font-bold">The archive of {klass.name}</h1>
    <p class="text-ink2">
      {#if closed}{closed.by} closed the term on {sayTimeOfYear(closed.at, klass.time_zone)}.{/if} Everything
      in it can be read, and nothing in it changes.
    </p>
    {#if form?.sentence}<p class="trouble mt-3" role="alert">{form.sentence}</p>{/if}

    <section class="mt-8" aria-labelledby="file">
      <h2 id="file" class="text-lg font-bold">The archive as a file</h2>
      <p class="mt-1 text-ink2">
        A zip archive with every copy as a page that opens in any browser, the gradebook and the
        roster as tables, and all that is needed to open the class again in Uncia. Every file in it
        can be verified against its checksum.
      </p>
      <ArchiveFile
        archive={data.archive}
        href={data.mayDownload ? `/classes/${klass.id}/archive/file` : null}
      />
      {#if data.mayKeep && (data.archive === null || data.archive.finished !== null || data.archive.fault)}<div
          class="mt-2"
        >
          <FormButton label="Make it again" action="again" fields={{}} look="act act-small" />
        </div>{/if}
    </section>

    <section class="mt-8" aria-labelledby="students">
      <h2 id="students" class="text-lg font-bold">What students see</h2>
      {#if !data.wasOpen}<p class="mt-1 text-ink2">
          This class was never opened to its students: they see nothing of it.
        </p>
      {:else if data.mayKeep}
        <form method="POST" action="?/until" use:enhance={saving('Saved.')} class="mt-1">
          <ReadUntil bind:until timeZone={klass.time_zone} />
          {#if until !== (data.readUntil ?? '')}<button class="act act-main mt-3">Save</button>{/if}
        </form>
      {:else}<p class="mt-1">
          {data.readUntil
            ? `They read their own work until ${sayDate(data.readUntil, { weekday: true, year: true })}.`
            : 'They see nothing of it any more.'}
        </p>{/if}
    </section>
    {#if data.mayCarryOver}
      <section class="mt-8" aria-labelledby="next">
        <h2 id="next" class="text-lg font-bold">The next class</h2>
        <p class="mt-1 mb-3 text-ink2">
          Its materials and assignments can be used again, as fresh copies and drafts with new due
          times. Nothing of its students comes along.
        </p>
        <a class="act act-main" href="/classes/new?from={klass.id}">Create a class from it</a>
      </section>
    {/if}
    {#if data.mayKeep}
      <section class="mt-8 mb-10" aria-labelledby="again">
        <h2 id="again" class="text-lg font-bold">Open {klass.name} again</h2>
        <p class="mt-1 mb-3 text-ink2">
          Everybody goes on where they were. What was planned to go out does not: it is a draft.
        </p>
        <FormButton label="Open {klass.name} again" action="openAgain" fields={{}} look="act" />
      </section>
    {/if}
  </div>
</main>
