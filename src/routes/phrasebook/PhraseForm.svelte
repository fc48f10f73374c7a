<script lang="ts">
  import { untrack } from 'svelte';
  import { LONGEST } from '$core/phrasebook/phrase';
  import { enhance } from '$ui/refresh';

  interface Props {
    action: 'add' | 'change';
    courses: readonly { id: string; title: string }[];
    phrase?: { id: string; version: number; text: string; course: { id: string } | null } | null;
    done?: () => void;
  }
  let { action, courses, phrase = null, done = () => undefined }: Props = $props();
  let text = $state(untrack(() => phrase?.text ?? ''));
  let course = $state(untrack(() => phrase?.course?.id ?? ''));
</script>

<form
  method="POST"
  action="?/{action}"
  class="flex flex-wrap items-start gap-3"
  use:enhance={() =>
    async ({ update, result }) => {
      await update({ reset: false });
      if (result.type !== 'success') return;
      if (action === 'add') text = '';
      done();
    }}
>
  {#if phrase}<input type="hidden" name="id" value={phrase.id} />
    <input type="hidden" name="version" value={phrase.version} />{/if}
  <label class="min-w-64 flex-1"
    ><span class="label">{phrase ? 'Phrase' : 'New phrase'}</span>
    <textarea class="field" name="text" rows="2" maxlength={LONGEST} required bind:value={text}
    ></textarea></label
  >
  <label
    ><span class="label">Shared with</span>
    <select class="field" name="course" bind:value={course}>
      <option value="">nobody</option>
      {#each courses as { id, title } (id)}<option value={id}>colleagues of {title}</option>{/each}
    </select></label
  >
  <button class={['act mt-6', action === 'add' && 'act-main']}
    >{phrase ? 'Save' : 'Add phrase'}</button
  >
  {#if phrase}<button type="button" class="act act-plain mt-6" onclick={done}>Cancel</button>{/if}
</form>
