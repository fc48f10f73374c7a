<script lang="ts">
  import { LONGEST_WORD } from '$core/stamps/stamp';
  import { readAgain } from '$ui/refresh';
  import { send } from '$ui/send';
  import StampPicture from '$ui/stamps/StampPicture.svelte';
  import NewStamp from './NewStamp.svelte';

  interface Props {
    stamps: readonly { id: string; word: string; away: boolean }[];
  }
  let { stamps }: Props = $props();
  const here = $derived(stamps.filter(({ away }) => !away));
  let sentence = $state('');

  async function change(body: object) {
    sentence = '';
    try {
      await send('/stamps', body);
      await readAgain('uncia:stamps');
    } catch (error) {
      sentence = error instanceof Error ? error.message : '';
    }
  }
</script>

<section class="mt-10 border-t border-rule pt-5" id="stamps" aria-labelledby="own-stamps">
  <h2 id="own-stamps" class="text-xl font-bold">Your stamps</h2>
  <p class="mt-1 text-ink2">
    Small pictures with a word, to put on a place in a copy. Eight come with Uncia; these are your
    own.
  </p>
  {#if sentence}<p class="trouble mt-3" role="alert">{sentence}</p>{/if}
  <ul class="mt-3 flex flex-wrap gap-3">
    {#each here as one (one.id)}
      <li class="flex items-center gap-3 rounded-lg border border-rule bg-sheet px-3 py-2">
        <StampPicture stamp={{ kind: 'own', id: one.id }} size={44} />
        <input
          class="field w-44"
          aria-label="Word of the stamp “{one.word}”"
          maxlength={LONGEST_WORD}
          value={one.word}
          onchange={({ currentTarget: { value } }) => change({ id: one.id, word: value })}
        />
        <button
          type="button"
          class="act act-small"
          aria-label="Remove the stamp “{one.word}”"
          onclick={() => change({ id: one.id, away: true })}>Remove</button
        >
      </li>
    {:else}<li class="text-ink2">None yet.</li>{/each}
  </ul>
  <NewStamp add={(word, picture) => change({ word, picture })} />
  {#if stamps.some(({ away }) => away)}
    <details class="mt-4">
      <summary class="cursor-pointer text-sm text-ink2"
        >{stamps.filter(({ away }) => away).length} removed</summary
      >
      <ul class="mt-2 flex flex-wrap gap-3">
        {#each stamps.filter(({ away }) => away) as one (one.id)}
          <li class="flex items-center gap-2 text-sm">
            <StampPicture stamp={{ kind: 'own', id: one.id }} size={28} />{one.word}
            <button
              type="button"
              class="act act-small"
              onclick={() => change({ id: one.id, away: false })}>Restore</button
            >
          </li>
        {/each}
      </ul>
    </details>
  {/if}
</section>
