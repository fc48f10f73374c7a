<script lang="ts">
  import type { Difference } from '$core/lists/differences';
  import { when } from '$core/calendar/say-time';
  import { enhance } from '$ui/refresh';

  interface Props {
    changes: { version: number; at: number; by: string; changed: Difference[] }[];
    /** The version that the rubric has now. */
    version: number;
    now: number;
    timeZone: string;
    mayWrite: boolean;
    /** Called once the rubric is as it was before one of them. */
    done: () => void;
  }
  let { changes, version, now, timeZone, mayWrite, done }: Props = $props();
  const MOST = 3;
  const short = (text: string) => (text.length > 60 ? `${text.slice(0, 60)} …` : text || 'nothing');
</script>

{#if changes.length > 0}
  <details class="mt-6">
    <summary class="text-ink2">What changed · {changes.length}</summary>
    <ul class="mt-2 max-w-3xl">
      {#each changes as change (change.version)}
        <li class="border-b border-rule py-2 text-sm">
          <div class="flex items-baseline gap-3">
            <span class="flex-1 text-ink2">{when(change.at, now, timeZone)}, {change.by}</span>
            {#if mayWrite}
              <form
                method="POST"
                action="?/back"
                use:enhance={() =>
                  async ({ update, result }) => {
                    await update();
                    if (result.type === 'success') done();
                  }}
              >
                <input type="hidden" name="before" value={change.version} />
                <input type="hidden" name="version" value={version} />
                <button class="act act-small"
                  >As it was before<span class="sr-only">, {when(change.at, now, timeZone)}</span
                  ></button
                >
              </form>
            {/if}
          </div>
          {#each change.changed.slice(0, MOST) as { what, mine, theirs } (what)}
            <p>{what}: {short(mine)} → {short(theirs)}</p>
          {:else}<p>Nothing that is seen.</p>{/each}
          {#if change.changed.length > MOST}<p class="text-ink2">
              and {change.changed.length - MOST} more
            </p>{/if}
        </li>
      {/each}
    </ul>
  </details>
{/if}
