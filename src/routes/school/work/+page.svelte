<script lang="ts">
  import FormButton from '$ui/shell/FormButton.svelte';
  import { when } from '$core/calendar/say-time';
  import type { JobKinds } from '$lib/server/jobs/jobs';
  import SchoolViews from '../SchoolViews.svelte';

  let { data, form } = $props();
  const KINDS: Record<keyof JobKinds, string> = {
    'build class': 'Building a class',
    'open class': 'Opening a class',
    'hand out': 'Handing out',
    'notify handed out': 'Telling students what was handed out',
    remind: 'Reminding students',
    receive: 'Giving work to who joined a class',
    'bring correction': 'Bringing a correction into copies',
    'write archive': 'Making an archive',
    'forget archives': 'Forgetting an earlier archive',
    'open archive': 'Opening an archive',
    'look at attached': 'Looking at something attached',
    'take apart': 'Taking collected files apart',
  };
</script>

<!-- svelte-ignore a11y_no_noninteractive_tabindex (it scrolls) -->
<main tabindex="0" class="mx-auto w-full max-w-4xl flex-1 overflow-auto px-5 py-5">
  <div class="flex flex-wrap items-center gap-6">
    <h1 class="text-2xl font-bold">Background work</h1>
    <SchoolViews />
  </div>
  <p class="text-ink2">
    What takes longer than a moment, or waits for its time. It goes on by itself after a restart.
  </p>
  {#if form?.sentence}<p class="trouble mt-3" role="alert">{form.sentence}</p>{/if}
  <ul class="mt-4 border border-rule bg-sheet">
    {#each data.work as one (one.id)}
      <li class="flex items-center gap-4 border-b border-rule px-4 py-2.5 last:border-b-0">
        <span class="min-w-0 flex-1"
          ><strong>{KINDS[one.kind]}</strong>
          <span class="text-sm text-ink2"
            >· {one.state}
            {when(one.at, data.now, data.timeZone)}{one.tries > 0
              ? `, tried ${one.tries === 1 ? 'once' : `${one.tries} times`} before`
              : ''}</span
          >
          {#if one.fault}<span class="block text-sm text-rust">{one.fault}</span>{/if}</span
        >
        {#if one.state === 'failed'}
          <FormButton
            label="Try again"
            action="again"
            fields={{ id: one.id, kind: one.kind }}
            look="act act-small"
          />
        {/if}
      </li>
    {:else}<li class="px-4 py-3 text-ink2">Nothing runs, waits or failed.</li>{/each}
  </ul>
  {#if data.mail.length > 0}
    <h2 class="mt-6 font-bold">E-mail that was refused · {data.mail.length}</h2>
    <ul class="mt-1">
      {#each data.mail as one (one.id)}
        <li class="border-b border-rule py-1.5">
          {one.family}, {one.given}
          <span class="text-sm text-ink2">· {one.email} · {one.fault}</span>
        </li>
      {/each}
    </ul>
  {/if}
</main>
