<script lang="ts">
  import type { CheckChange } from '$core/marking/check-change';
  import WhoGains from '$ui/marking/WhoGains.svelte';
  import { fetchJson, send } from '$ui/send';
  import Sheet from '$ui/shell/Sheet.svelte';

  interface Props {
    at: string;
    /** Told how many came to something else. */
    checked: (count: number) => void;
  }
  let { at, checked }: Props = $props();
  let open = $state(false);
  let changes: CheckChange[] | null = $state.raw(null);
  let sending = $state(false);
  let sentence = $state('');

  async function preview() {
    open = true;
    changes = null;
    sentence = '';
    try {
      changes = await fetchJson<CheckChange[]>(at);
    } catch (error) {
      sentence = error instanceof Error ? error.message : '';
    }
  }
  async function check() {
    sending = true;
    try {
      const { changed } = await send<{ changed: number }>(at, {});
      checked(changed);
      open = false;
    } catch (error) {
      sentence = error instanceof Error ? error.message : '';
    }
    sending = false;
  }
</script>

<button class="act" onclick={preview}>Check again by the keys …</button>
<Sheet bind:open title="Check again by the keys">
  <p class="mt-2">
    The copies of all your classes are checked by the answer keys as they are now. What somebody
    gave a part by hand stays.
  </p>
  {#if sentence}<p class="trouble mt-3" role="alert">{sentence}</p>{/if}
  {#if changes}<WhoGains
      says="This"
      {changes}
      named
      {sending}
      yes={check}
      no={() => (open = false)}
      deed="Check them"
    />{:else if !sentence}<p class="mt-3 text-ink2">Looking …</p>{/if}
</Sheet>
