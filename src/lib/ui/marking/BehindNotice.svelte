<script lang="ts">
  import { counted } from '$core/lists/counted';
  import { listed } from '$core/lists/listed';
  import { handBackKept } from './hand-back-kept';

  interface Props {
    /** Copies whose points were changed after they were handed back, with whose they are. */
    copies: readonly { id: string; names: readonly string[] }[];
    named?: boolean;
    changed: () => Promise<void>;
  }
  /** Says whose points were changed after handing back, and tells them when the teacher says so. */
  let { copies, named = true, changed }: Props = $props();
  let done: number | null = $state(null);
  let sentence = $state('');

  async function handBack() {
    done = 0;
    const ids = copies.map(({ id }) => id);
    sentence = (await handBackKept(ids, (count) => (done = count))) ?? '';
    await changed().catch(() => undefined);
    done = null;
  }
</script>

{#if sentence}<p class="trouble mt-3" role="alert">{sentence}</p>{/if}
{#if copies.length > 0}
  <div class="notice mt-3 flex flex-wrap items-center gap-3" role="status">
    <p class="min-w-0 flex-1">
      <strong
        >{counted(copies.length, 'copy has', 'copies have')} other points than when
        {copies.length === 1 ? 'it was' : 'they were'} handed back.</strong
      >
      {#if named}{listed(copies.map(({ names }) => names.join(', ')))}.{/if}
      Their students do not know yet.
    </p>
    <button type="button" class="act" disabled={done !== null} onclick={handBack}
      >{done === null
        ? `Hand back again ${copies.length}`
        : `${done} of ${copies.length} handed back`}</button
    >
  </div>
{/if}
