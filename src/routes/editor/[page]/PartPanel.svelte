<script lang="ts">
  import X from '@lucide/svelte/icons/x';
  import type { Node } from 'prosemirror-model';
  import type { EditorView } from 'prosemirror-view';
  import { untrack } from 'svelte';
  import type { AnswerKey } from '$core/marking/answer-key';
  import { readPoints, writePoints } from '$core/marking/points';
  import { readNumber, type Part } from '$core/page/parts';
  import { schema } from '$core/page/schema';
  import { send } from '$ui/send';
  import DrawingPanel from './DrawingPanel.svelte';

  interface Props {
    page: string;
    view: EditorView;
    part: Part;
    node: Node;
    pos: number;
    keyOf: AnswerKey | null;
    kept: (keys: Record<string, AnswerKey>) => void;
    warn: (sentence: string) => void;
  }
  let { page, view, part, node, pos, keyOf, kept, warn }: Props = $props();

  const KINDS = {
    short: 'Short text',
    number: 'Number',
    choice: 'Choices',
    writing: 'Long writing',
    drawing: 'Drawing',
  };
  let value = $state(untrack(() => (keyOf?.kind === 'number' ? keyOf.value : '')));
  let onlyUnit = $state(untrack(() => keyOf?.kind === 'number' && keyOf.onlyUnit === true));
  let tolerance = $state(untrack(() => (keyOf?.kind === 'number' ? keyOf.tolerance : '')));
  let accepted = $state(untrack(() => (keyOf?.kind === 'short' ? keyOf.accepted.join('\n') : '')));
  let points = $state(
    untrack(() => (keyOf?.points === undefined ? '' : writePoints(keyOf.points))),
  );
  let partial = $state(
    untrack(() => keyOf !== null && 'partial' in keyOf && keyOf.partial === true),
  );
  let othersByHand = $state(untrack(() => keyOf?.kind === 'short' && keyOf.othersByHand === true));
  const right = $derived(keyOf?.kind === 'choice' ? keyOf.right : []);
  const options = $derived(node.type.name === 'answer_choice' ? node.content.content : []);

  const setAttribute = (name: string, to: unknown) =>
    view.dispatch(view.state.tr.setNodeAttribute(pos, name, to));

  /** One after the other, so that what was said last is what stays. */
  let keeping = Promise.resolve();
  function save(expected: () => AnswerKey | null) {
    const id = part.id;
    const key = () => worth(expected());
    keeping = keeping.then(async () => {
      try {
        kept(await send(`/pages/${page}/keys`, { part: id, key: key() }, 'PUT'));
        warn('');
      } catch (error) {
        warn(error instanceof Error ? error.message : '');
      }
    });
  }
  /** What is expected, with what it counts for; where nothing is, a person scores it. */
  function worth(expected: AnswerKey | null): AnswerKey | null {
    const given = readPoints(points);
    if (expected === null || expected.kind === 'by hand')
      return given === null ? null : { kind: 'by hand', points: given };
    const { points: _points, partial: _partial, ...rest } = expected;
    return { ...rest, ...(given !== null && { points: given }), ...(partial && { partial }) };
  }
  function saveWorth() {
    if (points.trim() !== '' && readPoints(points) === null)
      return warn('Points are a number such as 6, 6½ or 6.5.');
    save(() => keyOf);
  }
  function saveNumber() {
    if (value.trim() === '') return save(() => null);
    const also = keyOf?.kind === 'number' && keyOf.also ? { also: keyOf.also } : {};
    const number = readNumber(value);
    const within = tolerance.trim() === '' ? { digits: '' } : readNumber(tolerance);
    if (!number || !within)
      return warn('The expected answer and its tolerance are numbers, such as 2.6 and 0.1.');
    const { unit } = node.attrs;
    if (number.unit && number.unit !== unit)
      return warn(`“${number.unit}” is a unit: please write it in the field for it.`);
    const key = { value: number.digits, tolerance: within.digits, unit, onlyUnit, ...also };
    save(() => ({ kind: 'number', ...key }));
  }
  function saveShort() {
    const texts = accepted
      .split('\n')
      .map((text) => text.trim())
      .filter(Boolean);
    const others = othersByHand ? { othersByHand } : {};
    save(() => (texts.length > 0 ? { kind: 'short', accepted: texts, ...others } : null));
  }
  function saveChoice(id: string, is: boolean) {
    save(() => {
      const others = node.attrs.several ? right.filter((one) => one !== id) : [];
      const next = is ? [...others, id] : others;
      return next.length > 0 ? { kind: 'choice', right: next } : null;
    });
  }
  function removeOption(option: Node) {
    const at = options
      .slice(0, options.indexOf(option))
      .reduce((sum, one) => sum + one.nodeSize, 0);
    const from = pos + 1 + at;
    view.dispatch(view.state.tr.delete(from, from + option.nodeSize));
    if (right.includes(option.attrs.id)) saveChoice(option.attrs.id, false);
  }
  function addOption() {
    const option = schema.nodes.choice.create(null, schema.text('new choice'));
    view.dispatch(view.state.tr.insert(pos + node.nodeSize - 1, option));
  }
</script>

<section class="mb-5 rounded-lg border border-rule bg-paper p-4" aria-labelledby="part">
  <h2 id="part" class="font-bold">Part {part.number} · {KINDS[part.kind]}</h2>
  <p class="truncate text-sm text-ink2">{part.label}</p>
  {#if part.kind === 'number'}
    <label class="mt-3 block"
      ><span class="label">Unit</span>
      <input
        class="field"
        value={node.attrs.unit}
        maxlength="40"
        placeholder="m"
        onchange={(event) => {
          setAttribute('unit', event.currentTarget.value.trim());
          void saveNumber();
        }}
      /></label
    >
    <div class="mt-2 grid grid-cols-2 gap-2">
      <label
        ><span class="label">Expected</span><input
          class="field"
          inputmode="decimal"
          bind:value
          onchange={saveNumber}
        /></label
      >
      <label
        ><span class="label">Tolerance</span><input
          class="field"
          inputmode="decimal"
          bind:value={tolerance}
          onchange={saveNumber}
        /></label
      >
    </div>
    {#if node.attrs.unit}
      <label class="mt-2 flex items-center gap-2"
        ><input type="checkbox" bind:checked={onlyUnit} onchange={saveNumber} />only in {node.attrs
          .unit}: nothing converted is right</label
      >
    {/if}
  {:else if part.kind === 'short'}
    <label class="mt-3 block"
      ><span class="label">Expected, one on a line</span>
      <textarea class="field" rows="3" bind:value={accepted} onchange={saveShort}></textarea></label
    >
    {#if accepted.trim()}<label class="mt-1 flex items-center gap-2"
        ><input type="checkbox" bind:checked={othersByHand} onchange={saveShort} />a person scores
        other answers</label
      >{/if}
  {:else if part.kind === 'drawing'}
    <DrawingPanel {view} {node} {pos} {keyOf} {save} {setAttribute} {warn} />
  {:else if part.kind === 'writing'}
    <label class="mt-3 block"
      ><span class="label">Aim, in words; 0 for none</span>
      <input
        class="field"
        type="number"
        min="0"
        max="5000"
        value={node.attrs.aim}
        onchange={(event) =>
          setAttribute(
            'aim',
            Math.min(5000, Math.max(0, Math.round(Number(event.currentTarget.value)) || 0)),
          )}
      /></label
    >
  {:else}
    <fieldset class="mt-3">
      <legend class="label">{node.attrs.several ? 'Right ones' : 'The right one'}</legend>
      {#each options as option (option.attrs.id)}
        <div class="flex items-center gap-2">
          <label class="flex min-w-0 flex-1 items-center gap-2 py-0.5"
            ><input
              type={node.attrs.several ? 'checkbox' : 'radio'}
              name="right-{part.id}"
              checked={right.includes(option.attrs.id)}
              onchange={(event) => saveChoice(option.attrs.id, event.currentTarget.checked)}
            /><span class="truncate">{option.textContent || '…'}</span></label
          >
          {#if options.length > 1}<button
              class="act act-small act-plain"
              aria-label="Remove the choice {option.textContent}"
              onclick={() => removeOption(option)}><X size={15} aria-hidden="true" /></button
            >{/if}
        </div>
      {/each}
    </fieldset>
    <button class="act act-small mt-2" onclick={addOption}>Add choice</button>
    {#if right.length > 0}<button
        class="act act-small act-plain mt-2"
        onclick={() => save(() => null)}
        >{right.length > 1 ? 'None is right' : 'Clear the key'}</button
      >{/if}
  {/if}
  <div class="mt-3 flex items-end gap-3">
    <label class="w-24"
      ><span class="label">Points</span><input
        class="field"
        inputmode="decimal"
        placeholder={keyOf && keyOf.kind !== 'by hand' ? '1' : 'none'}
        bind:value={points}
        onchange={saveWorth}
      /></label
    >
    {#if keyOf && keyOf.kind !== 'by hand'}<label
        class="flex flex-1 items-center gap-2 pb-2 text-sm"
        ><input type="checkbox" bind:checked={partial} onchange={saveWorth} />some of them for what
        is partly right</label
      >{/if}
  </div>
  {#if keyOf?.kind === 'by hand'}<p class="mt-1 text-sm text-ink2">
      It is scored by hand, part by part.
    </p>{/if}
  <p class="mt-2 text-xs text-ink2">What you expect stays with the staff; students never get it.</p>
  <button
    class="act act-small act-plain mt-2"
    onclick={() => view.dispatch(view.state.tr.delete(pos, pos + node.nodeSize))}
    >Remove this place</button
  >
</section>
