<script lang="ts">
  import Sheet from './Sheet.svelte';
  import { page } from '$app/state';

  let { open = $bindable() }: { open: boolean } = $props();
  /** The keys of each view, by its route; those of all views come last. */
  const KEYS: Record<string, [string, string][]> = {
    '/classes/[class]': [
      ['← ↑ → ↓', 'from cell to cell of the board'],
      ['Enter', 'peek into the copy, or close the peek'],
      ['Esc', 'close the peek'],
      ['g, then b k p r o s', 'board, gradebook, plan, roster, groups, set-up'],
    ],
    '/classes/[class]/marking/[page]': [
      ['[ and ]', 'previous and next student'],
      ['c', 'comment on the selected words'],
      ['Ctrl Enter', 'add the comment'],
      ['↓ in a comment', 'to the phrases that fit; Enter takes one'],
      ['Alt P', 'save the comment in your phrasebook'],
      ['Alt ↑ and ↓', 'move a paragraph, where you propose'],
      ['p', 'to the points; Enter hands back'],
      ['s', 'score: to the first criterion without points'],
      ['0 to 9', 'the level with these points'],
      ['← → and .', 'a half step less or more, in a criterion'],
    ],
    '/classes/[class]/assignments/[assignment]/by-criterion': [
      ['[ and ]', 'previous and next copy'],
      ['0 to 9', 'the level with these points'],
      ['← → and .', 'a half step less or more'],
    ],
    '/classes/[class]/assignments/[assignment]/by-part': [
      ['↑ and ↓', 'from pile to pile'],
      ['0 to 9', 'points for the pile; with Shift half a point more'],
      ['c', 'comment on the pile'],
      ['u', 'undo'],
      ['[ and ]', 'previous and next part'],
    ],
    '/classes/[class]/gradebook': [
      ['← ↑ → ↓', 'from cell to cell'],
      ['0 to 9', 'type points; Enter saves and goes down, Tab to the right'],
      ['Esc', 'leave the points as they were'],
    ],
    '/work/[page]': [
      ['Tab', 'from answer to answer'],
      ['Ctrl Z', 'undo'],
    ],
    '/editor/[page]': [
      ['# and space', 'a heading, at the beginning of a line'],
      ['- and space', 'a list'],
      ['Ctrl B, I, U', 'bold, italic, underlined'],
      ['Ctrl Z', 'undo'],
    ],
  };
  const keys = $derived([
    ...(KEYS[page.route.id ?? ''] ?? []),
    ['/', 'find anything'],
    ['?', 'this sheet'],
  ]);
</script>

<Sheet bind:open title="Keyboard shortcuts">
  <dl class="mt-3 grid grid-cols-[auto_1fr] gap-x-5 gap-y-1.5">
    {#each keys as [key, does] (key)}
      <dt class="font-bold">{key}</dt>
      <dd>{does}</dd>
    {/each}
  </dl>
  <p class="mt-4 text-right"><button class="act" onclick={() => (open = false)}>Close</button></p>
</Sheet>
