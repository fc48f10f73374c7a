<script lang="ts">
  import { when } from '$core/calendar/say-time';
  import { readLocalTime, writeLocalTime } from '$core/calendar/local-time';
  import MomentField from '$ui/fields/MomentField.svelte';
  import Menu from '$ui/shell/Menu.svelte';
  import Sheet from '$ui/shell/Sheet.svelte';

  interface Props {
    /** What is put off. */
    title: string;
    /** The next lesson of one of its classes; null where there is none. */
    lesson: { name: string; at: number } | null;
    now: number;
    timeZone: string;
    /** @param until epoch milliseconds @returns what was wrong with it; empty for nothing */
    putOff: (until: number) => Promise<string>;
  }
  let { title, lesson, now, timeZone, putOff }: Props = $props();

  let choosing = $state(false);
  let moment = $state('');
  let trouble = $state('');
  const MORNING = '07:00';
  const tomorrow = $derived(
    readLocalTime(
      `${writeLocalTime(now + 86_400_000, timeZone).slice(0, 10)}T${MORNING}`,
      timeZone,
    ),
  );

  async function until(at: number | null) {
    trouble = at === null ? 'Please choose a day.' : await putOff(at);
    if (!trouble) choosing = false;
  }
</script>

<Menu label="Put off: {title}" look="act act-small act-plain">
  {#snippet button()}Put off{/snippet}
  {#if lesson}<button onclick={() => until(lesson.at)}
      >Until the next lesson of {lesson.name}<span class="block text-sm text-ink2"
        >{when(lesson.at, now, timeZone)}</span
      ></button
    >{/if}
  {#if tomorrow !== null}<button onclick={() => until(tomorrow)}
      >Until tomorrow<span class="block text-sm text-ink2">{when(tomorrow, now, timeZone)}</span
      ></button
    >{/if}
  <button onclick={() => (choosing = true)}>Until a date …</button>
</Menu>
<Sheet bind:open={choosing} title="Put off “{title}”">
  <form
    class="mt-3 grid gap-3"
    onsubmit={(event) => {
      event.preventDefault();
      void until(moment ? readLocalTime(moment, timeZone) : null);
    }}
  >
    <MomentField label="Until" bind:value={moment} {timeZone} timeOn={() => MORNING} />
    {#if trouble}<p class="trouble" role="alert">{trouble}</p>{/if}
    <div class="flex justify-end gap-2">
      <button type="button" class="act" onclick={() => (choosing = false)}>Cancel</button>
      <button class="act act-main">Put off</button>
    </div>
  </form>
</Sheet>
