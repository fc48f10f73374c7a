<script lang="ts">
  import Pick from '$ui/fields/Pick.svelte';
  import Sheet from '$ui/shell/Sheet.svelte';
  import { enhance } from '$ui/refresh';

  interface Props {
    sharers: { id: string; given: string; family: string; may: 'own' | 'write' | 'use' }[];
    colleagues: { id: string; given: string; family: string }[];
    mayShare: boolean;
  }
  let { sharers, colleagues, mayShare }: Props = $props();
  let shown = $state(false);

  const RIGHTS = [
    ['use', 'may use it'],
    ['write', 'may write in it'],
    ['own', 'it is theirs, too'],
  ] as const;
  const others = $derived(colleagues.filter(({ id }) => !sharers.some((one) => one.id === id)));
  const word = $derived(sharers.length === 1 ? 'Share' : `Shared by ${sharers.length}`);
</script>

<button class="act act-small" onclick={() => (shown = true)}>{word}</button>
<Sheet bind:open={shown} title="Who has a part in this course">
  <p class="text-sm text-ink2">
    Who uses it can hand out from it and build classes from it; who writes in it can also change its
    pages.
  </p>
  <ul class="mt-3">
    {#each sharers as one (one.id)}
      <li class="flex items-center gap-3 border-b border-rule py-2">
        <span class="flex-1">{one.given} {one.family}</span>
        {#if mayShare}
          <form
            method="POST"
            action="?/share"
            use:enhance={() =>
              ({ update }) =>
                update({ reset: false })}
          >
            <input type="hidden" name="colleague" value={one.id} />
            <select
              class="field w-auto py-1"
              name="may"
              aria-label="What {one.given} {one.family} may do"
              value={one.may}
              onchange={(event) => event.currentTarget.form?.requestSubmit()}
            >
              {#each RIGHTS as [right, says] (right)}<option value={right}>{says}</option>{/each}
              <option value="no">no part in it</option>
            </select>
          </form>
        {:else}<span class="text-ink2">{RIGHTS.find(([right]) => right === one.may)?.[1]}</span
          >{/if}
      </li>
    {/each}
  </ul>
  {#if mayShare && others.length > 0}
    <form method="POST" action="?/share" use:enhance class="mt-4 flex flex-wrap items-end gap-2">
      <div class="flex-1">
        <Pick
          label="A colleague"
          name="colleague"
          required
          options={others.map((one) => ({ value: one.id, label: `${one.given} ${one.family}` }))}
        />
      </div>
      <select class="field w-auto" name="may" aria-label="What the colleague may do">
        {#each RIGHTS as [right, says] (right)}<option value={right}>{says}</option>{/each}
      </select>
      <button class="act">Share</button>
    </form>
  {/if}
  <p class="mt-5 text-right"><button class="act" onclick={() => (shown = false)}>Close</button></p>
</Sheet>
