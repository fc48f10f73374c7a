<script lang="ts">
  import type { Sorted } from '$core/collecting/collected';
  import { counted } from '$core/lists/counted';
  import Bar from '$ui/fields/Bar.svelte';

  interface Props {
    files: readonly Sorted[];
    busy: boolean;
    move: (asked: object) => Promise<unknown>;
  }
  /** Archives and stacks that others were taken out of, with what was left out of them. */
  let { files, busy, move }: Props = $props();
</script>

{#each files as { id, path, type, apart, done, total, leftOut } (id)}
  <div class="mt-3 max-w-3xl border border-rule bg-sheet px-3 py-2" role="status">
    <p class="wrap-anywhere">
      <bdi class="font-bold">{path}</bdi>
      <span class="text-ink2"
        >· {apart === 'begun'
          ? total === 0
            ? 'is being looked through. You can leave; it goes on by itself.'
            : `${done} of ${total} are out of it. You can leave; it goes on by itself.`
          : type === 'application/pdf'
            ? `was cut into ${counted(total, 'piece')}`
            : `${counted(total, 'file')} taken out of it`}</span
      >
      {#if apart === 'done'}<button
          class="act act-small act-plain"
          disabled={busy}
          onclick={() => move({ move: 'put together', file: id })}
          >Put together again<span class="sr-only"> {path}</span></button
        >{/if}
    </p>
    {#if apart === 'begun' && total > 0}<div class="mt-1.5">
        <Bar label="Files that are out of {path}" {done} {total} />
      </div>{/if}
    {#if leftOut.length > 0}
      <ul class="mt-1 text-sm">
        {#each leftOut as one (one.path)}<li class="wrap-anywhere">
            <span class="text-rust">Left out:</span> <bdi>{one.path}</bdi>. {one.why}
          </li>{/each}
      </ul>
    {/if}
  </div>
{/each}
