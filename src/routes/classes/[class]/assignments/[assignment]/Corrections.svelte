<script lang="ts">
  import type { ChangeFact } from '$core/handout/change-facts';
  import { sayChangeFact } from '$core/handout/say-change';
  import { send } from '$ui/send';
  import { readAgain } from '$ui/refresh';

  interface Props {
    klass: string;
    assignment: string;
    timeZone: string;
    /** Pages whose text was changed since they were handed out. */
    outdated: { id: string; title: string }[];
  }
  let { klass, assignment, timeZone, outdated }: Props = $props();
  interface Preview {
    facts: ChangeFact[];
    passages: { was: string; is: string }[];
    conflicts: { who: string; was: string; is: string; mine: string }[];
  }
  let looked: Record<string, Preview> = $state({});
  let trouble = $state('');
  const to = $derived(`/classes/${klass}/assignments/${assignment}/correct`);

  async function ask(page: string, preview: boolean) {
    trouble = '';
    try {
      const answer = await send<Preview>(to, { page, preview });
      if (preview) looked[page] = answer;
      else await readAgain();
    } catch (error) {
      trouble = error instanceof Error ? error.message : '';
    }
  }
</script>

<h2 class="mt-5 font-bold">Corrected since</h2>
{#if trouble}<p class="trouble mt-2" role="alert">{trouble}</p>{/if}
{#each outdated as page (page.id)}
  {@const preview = looked[page.id]}
  <div class="mt-1 border-b border-rule py-2">
    <p>“{page.title}” was changed after it was handed out. Copies have it as it was.</p>
    {#if preview}
      <ul class="mt-2 max-h-48 space-y-2 overflow-auto text-sm" aria-label="What was corrected">
        {#each preview.passages as { was, is }, index (index)}
          <li class="border-l-3 border-rule pl-3 font-page">
            {#if was}<del class="block text-ink2">{was}</del>{/if}
            {#if is}<ins class="block no-underline">{is}</ins>{/if}
          </li>
        {/each}
      </ul>
      <p class="mt-2">{preview.facts.map((fact) => sayChangeFact(fact, timeZone)).join(' ')}</p>
      {#if preview.conflicts.length > 0}
        <ul class="mt-1 max-h-48 overflow-auto text-sm">
          {#each preview.conflicts as conflict, index (index)}
            <li class="border-l-3 border-lamp py-1 pl-3">
              <strong>{conflict.who}</strong> keeps “{conflict.mine}”; it now says “{conflict.is}”.
            </li>
          {/each}
        </ul>
      {/if}
      <button class="act act-small act-main mt-2" onclick={() => ask(page.id, false)}
        >Update the copies</button
      >
    {:else}
      <button class="act act-small mt-2" onclick={() => ask(page.id, true)}>Preview changes</button>
    {/if}
  </div>
{/each}
