<script lang="ts">
  import type { Checked, CheckedPart, GivenPart, GivenParts } from '$core/marking/check-copy';
  import { givenIn } from '$core/marking/sum-parts';
  import CheckedSheet from '$ui/marking/CheckedSheet.svelte';
  import { send } from '$ui/send';

  /** A copy that is scored part by part: what its answers came to by their keys, and what a teacher gives them. */
  interface Props {
    page: string;
    /** What its score says; null where it was not checked, or was scored otherwise since. */
    checked: Checked | null;
    /** The last score that is seen here. */
    score: string | null;
    /** How a score is sent. */
    move: 'score' | 'score apart';
    changed: () => Promise<void>;
  }
  let { page, checked, score, move, changed }: Props = $props();
  let checking = $state(false);
  let sentence = $state('');

  /** What is sent before; each score follows the one before it, so they go one by one. */
  let before: Promise<unknown> = Promise.resolve();

  /** Checks the copy by its keys, with what a teacher gives. @throws Error with a sentence */
  async function check(given: () => GivenParts): Promise<void> {
    const sent = before.then(() =>
      send(`/pages/${page}/marking`, { move, given: { parts: given() }, after: score }),
    );
    const read = sent
      .catch(() => undefined)
      .then(changed)
      .catch(() => undefined);
    before = read;
    // A refusal is told at once; what was saved, when it is seen.
    await sent;
    await read;
  }
  const give = (part: CheckedPart, given: GivenPart | null) =>
    check(() => {
      const { [part.id]: _before, ...others } = givenIn(checked);
      return given ? { ...others, [part.id]: given } : others;
    });
  async function checkAgain() {
    checking = true;
    sentence = '';
    await check(() => givenIn(checked)).catch((error) => (sentence = error.message));
    checking = false;
  }
</script>

<div class="mb-4">
  <h2 class="font-bold">Part by part</h2>
  {#if checked}
    <CheckedSheet {checked} {give} />
  {:else}
    <p class="mt-1 text-sm text-ink2">
      {score === null
        ? 'Its parts are not scored yet.'
        : 'It was scored as a whole; its parts do not count.'}
    </p>
  {/if}
  <button type="button" class="act act-small mt-2" disabled={checking} onclick={checkAgain}
    >{checked ? 'Check again' : 'Check now'}</button
  >
  {#if sentence}<p class="trouble mt-2" role="alert">{sentence}</p>{/if}
</div>
