<script lang="ts">
  import { writePoints } from '$core/marking/points';
  import { areEqual, settledScore, sideBySide, type BothGave } from '$core/marking/settle';
  import type { ToSettle } from '$server/copy/view-markers';
  import { send } from '$ui/send';

  interface Props {
    one: ToSettle;
    klass: string;
    most: string | null;
    changed: () => Promise<void>;
  }
  let { one, klass, most, changed }: Props = $props();

  const lines = $derived(sideBySide(one.scores, most));
  const differing = $derived(lines.filter((line) => !areEqual(line)));
  const equal = $derived(lines.length - differing.length);
  let chosen: Readonly<Record<string, string>> = $state.raw({});
  const given = $derived(settledScore(one.scores, chosen, most));
  let sending = $state(false);
  let sentence = $state('');

  const whose = ({ points: [a, b] }: BothGave, option: string) =>
    option === a ? one.by[0] : option === b ? one.by[1] : 'in the middle';
  async function settle() {
    if (!given) return;
    sending = true;
    sentence = '';
    try {
      const of = one.scores.map(({ id }) => id);
      await send(`/pages/${one.copy}/marking`, { move: 'settle', given, of });
    } catch (error) {
      sentence = error instanceof Error ? error.message : '';
    }
    await changed().catch(() => undefined);
    sending = false;
  }
</script>

<form
  class="mt-3 border-b border-rule pb-3"
  aria-label="Settle {one.name}"
  onsubmit={(event) => {
    event.preventDefault();
    void settle();
  }}
>
  <div class="flex flex-wrap items-baseline gap-3">
    <h3 class="flex-1 font-bold">
      <a class="text-ink" href="/classes/{klass}/marking/{one.copy}">{one.name}</a>
      <span class="text-sm font-normal text-ink2"
        >{one.by.join(' and ')}{equal > 0 ? `, the same on ${equal} of ${lines.length}` : ''}</span
      >
    </h3>
    <button class="act act-small act-main" disabled={!given || sending}>Settle</button>
  </div>
  {#if sentence}<p class="trouble mt-1" role="alert">{sentence}</p>{/if}
  {#each differing as line (line.id)}
    <fieldset class="mt-1.5 flex flex-wrap items-center gap-x-4 gap-y-1">
      <legend class="float-left w-56 truncate">{line.label}</legend>
      {#each line.options as option (option)}
        <label class="flex min-h-6 items-center gap-1.5">
          <input
            type="radio"
            name="{one.copy} {line.id}"
            value={option}
            checked={chosen[line.id] === option}
            onchange={() => (chosen = { ...chosen, [line.id]: option })}
          />
          <strong>{writePoints(option)}</strong>
          <span class="text-sm text-ink2">{whose(line, option)}</span>
        </label>
      {/each}
    </fieldset>
    {#each line.words as words, index (index)}
      {#if words}<p class="ml-56 text-sm text-ink2">{one.by[index]}: {words}</p>{/if}
    {/each}
  {/each}
</form>
