<script lang="ts">
  import type { Checked, CheckedPart, GivenPart } from '$core/marking/check-copy';
  import { readPoints, samePoints, writePoints } from '$core/marking/points';
  import {
    byKey,
    givenTo,
    mostOf,
    pointsOfPart,
    sayParts,
    sumParts,
  } from '$core/marking/sum-parts';

  interface Props {
    checked: Checked;
    /**
     * Gives a part other points, or with null those of its key; left out for who only reads.
     * @throws Error with a sentence
     */
    give?: (part: CheckedPart, given: GivenPart | null) => Promise<void>;
  }
  let { checked, give }: Props = $props();
  const WHY: Partial<Record<CheckedPart['verdict'], string>> = {
    'no answer': 'no answer',
    unreadable: 'it cannot be read as a number',
    'wrong unit': 'it is in another unit',
  };
  /** The part that is given other points now, and what is typed. */
  let changing: { id: string; points: string; reason: string } | null = $state.raw(null);
  let sentence = $state('');
  let saving = $state(false);

  function change(part: CheckedPart) {
    const points = pointsOfPart(part);
    changing = {
      id: part.id,
      points: points === null ? '' : writePoints(points),
      reason: givenTo(part)?.reason ?? '',
    };
    sentence = '';
  }
  /** What was typed stands until it is saved. */
  async function set(part: CheckedPart, given: GivenPart | null) {
    if (saving) return;
    saving = true;
    sentence = '';
    try {
      await give?.(part, given);
      changing = null;
    } catch (error) {
      sentence = error instanceof Error ? error.message : '';
    }
    saving = false;
  }
  function save(event: SubmitEvent, part: CheckedPart) {
    event.preventDefault();
    const points = readPoints(changing?.points ?? '');
    if (points === null) sentence = 'Points are a number such as 1, ½ or 1.5.';
    else void set(part, { points, reason: changing?.reason.trim() ?? '' });
  }
  /** How a part stands, in words and a sign. */
  function standing(part: CheckedPart) {
    const points = pointsOfPart(part);
    if (points === null) return { sign: '·', look: 'text-ink2', says: 'Not scored yet' };
    if (samePoints(points, mostOf(part))) return { sign: '✓', look: 'text-spruce', says: 'Right' };
    if (samePoints(points, '0')) return { sign: '✗', look: 'text-rust', says: 'Not right' };
    return { sign: '◐', look: 'text-ink', says: 'Partly right' };
  }
</script>

<section class="mt-4" aria-label="What the answers came to">
  <p><strong>{sayParts(sumParts(checked))}</strong></p>
  <ul class="mt-1">
    {#each checked.parts as part (part.id)}
      {@const { sign, look, says } = standing(part)}
      {@const points = pointsOfPart(part)}
      {@const given = givenTo(part)}
      <li class="grid grid-cols-[auto_1fr_auto] items-baseline gap-x-2 border-b border-rule py-1.5">
        <span class={look} aria-hidden="true">{sign}</span>
        <span class="min-w-0">
          <span class="text-sm text-ink2">{part.number}. {part.label}</span>
          {#if part.answer}<span class="block break-words">{part.answer}</span>{/if}
          <span class="block text-sm text-ink2">
            <span class="sr-only">{says}</span>
            {given && byKey(part) !== null
              ? `given by a teacher${given.reason ? `: ${given.reason}` : ''}`
              : given?.reason || (WHY[part.verdict] ?? '')}
          </span>
        </span>
        <span class="text-right whitespace-nowrap">
          {points === null ? '–' : writePoints(points)}
          <span class="text-sm text-ink2">of {writePoints(mostOf(part))}</span>
          {#if give && changing?.id !== part.id}<button
              type="button"
              class="act act-small ml-1"
              disabled={saving}
              onclick={() => change(part)}
              aria-label="{points === null ? 'Score' : 'Change'} part {part.number}"
              >{points === null ? 'Score' : 'Change'}</button
            >{/if}
        </span>
        {#if changing?.id === part.id}
          <form class="col-span-3 mt-1 mb-1" onsubmit={(event) => save(event, part)}>
            <div class="grid grid-cols-[5rem_1fr] gap-2">
              <label
                ><span class="label">Points</span><!-- svelte-ignore a11y_autofocus --><input
                  class="field"
                  inputmode="decimal"
                  autofocus
                  bind:value={
                    () => changing?.points ?? '',
                    (next) => changing && (changing = { ...changing, points: next })
                  }
                /></label
              >
              <label
                ><span class="label"
                  >{byKey(part) === null ? 'A word on it' : 'Why; it goes back with the copy'}</span
                ><input
                  class="field"
                  maxlength="1000"
                  bind:value={
                    () => changing?.reason ?? '',
                    (reason) => changing && (changing = { ...changing, reason })
                  }
                /></label
              >
            </div>
            {#if sentence}<p class="trouble mt-1" role="alert">{sentence}</p>{/if}
            <div class="mt-1 flex gap-2">
              <button class="act act-small act-main" disabled={saving}>Save</button>
              <button
                type="button"
                class="act act-small"
                disabled={saving}
                onclick={() => (changing = null)}>Cancel</button
              >
              {#if given && byKey(part) !== null}<button
                  type="button"
                  class="act act-small act-plain"
                  disabled={saving}
                  onclick={() => set(part, null)}>As the key says</button
                >{/if}
            </div>
          </form>
        {/if}
      </li>
    {/each}
  </ul>
</section>
