<script lang="ts">
  import { tick, type Snippet } from 'svelte';
  import { saidAs } from '$core/copy/said-file';
  import { sayMoment } from '$core/attached/spot';
  import { LONGEST_SPOKEN } from '$core/copy/said-file';
  import UnderwayList from '../attached/UnderwayList.svelte';
  import FileField from '../fields/FileField.svelte';
  import type { SaidAlong } from './said-along.svelte';
  import SaidFile from './SaidFile.svelte';

  interface Props {
    text: string;
    field?: HTMLTextAreaElement;
    along: SaidAlong;
    /** What else can be put on the copy. */
    children?: Snippet;
  }
  /** What goes with the words of a comment: formulas in them, a picture, what is spoken. */
  let { text = $bindable(), field, along, children }: Props = $props();
  const { waiting, recorder } = $derived(along);

  let fault = $state('');

  /** Puts dollar signs around what is selected in the field, or around the caret. */
  async function formula() {
    const [from, to] = [field?.selectionStart ?? text.length, field?.selectionEnd ?? text.length];
    text = `${text.slice(0, from)}$${text.slice(from, to)}$${text.slice(to)}`;
    await tick();
    field?.focus();
    field?.setSelectionRange(from + 1, to + 1);
  }
  function take([file]: File[]) {
    if (!file) return;
    fault = saidAs(file.type) === null ? `“${file.name}” is neither a picture nor sound.` : '';
    if (!fault) void waiting.take(file);
  }
</script>

<div class="mt-1 flex flex-wrap items-center gap-1">
  {#if recorder.seconds !== null}
    <span class="min-w-0 flex-1" role="timer"
      ><span class="text-rust" aria-hidden="true">●</span> Recording, {sayMoment(recorder.seconds)} of
      {sayMoment(LONGEST_SPOKEN)}</span
    >
    <button type="button" class="act act-small act-main" onclick={() => recorder.stop()}
      >Stop</button
    >
    <button type="button" class="act act-small act-plain" onclick={() => recorder.drop()}
      >Forget it</button
    >
  {:else}
    <button
      type="button"
      class="act act-small"
      title="Between two dollar signs stands a formula in TeX: $x^2$"
      onclick={formula}>Formula</button
    >
    {#if waiting.file === null && waiting.uploads.underway.length === 0}
      <FileField label="Picture" accept={[]} asButton onfiles={take} />
      <button type="button" class="act act-small" onclick={() => recorder.begin()}>Speak</button>
    {/if}
    {@render children?.()}
  {/if}
</div>
{#if fault || recorder.trouble}<p class="trouble mt-1" role="alert">
    {fault || recorder.trouble}
  </p>{/if}
<UnderwayList uploads={waiting.uploads} />
{#if waiting.file}
  <SaidFile file={waiting.file} source={waiting.file.source} says={text} />
  <p class="mt-1 text-sm text-ink2">
    It goes with a line in words.
    <button type="button" class="act act-small act-plain" onclick={() => waiting.drop()}
      >Remove {waiting.file.as === 'picture' ? 'the picture' : 'what was spoken'}</button
    >
  </p>
{/if}
