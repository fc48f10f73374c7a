<script lang="ts">
  import { when } from '$core/calendar/say-time';
  import {
    beforeAndNow,
    sayDifference,
    type Given,
    type LastTime,
  } from '$core/marking/before-and-now';
  import { writePoints } from '$core/marking/points';

  interface Props {
    before: LastTime;
    given: Given | null;
    now: number;
    timeZone: string;
  }
  let { before, given, now, timeZone }: Props = $props();
  const lines = $derived(given ? beforeAndNow(before, given) : []);
</script>

<section class="mb-3 rounded-lg border border-rule px-4 py-2.5" aria-label="Last time">
  <p class="text-sm">
    {before.title === null
      ? `Last time it came back ${when(before.at, now, timeZone)}`
      : `Last time by this rubric, “${before.title}” came back ${when(before.at, now, timeZone)}`}
    {#if before.points !== null}with <strong
        >{writePoints(before.points)}{before.most ? ` of ${writePoints(before.most)}` : ''}</strong
      >
      points.{:else}without points.{/if}
  </p>
  {#if lines.length > 0}<table class="mt-1 w-full text-sm">
      <thead class="sr-only"
        ><tr><th>On</th><th>Last time</th><th>Now</th><th>Difference</th></tr></thead
      >
      <tbody>
        {#each lines as line (line.id)}
          <tr class="border-t border-rule">
            <th class="py-1 text-left font-normal">{line.label}</th>
            <td class="w-8 text-right text-ink2">{writePoints(line.was)}</td>
            <td class="w-12 text-right font-bold"
              ><span class="font-normal text-ink2" aria-hidden="true">→</span>
              {writePoints(line.is)}</td
            >
            <td
              class={[
                'w-20 text-right',
                line.was === line.is
                  ? 'text-ink2'
                  : Number(line.is) > Number(line.was) && 'text-spruce',
              ]}>{sayDifference(line)}</td
            >
          </tr>
        {/each}
      </tbody>
    </table>{/if}
</section>
