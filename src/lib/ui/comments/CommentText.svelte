<script lang="ts">
  import { piecesOf } from '$core/text/formulas';
  import { drawFormula } from '../page/draw-formula';

  /** What somebody said, with its formulas typeset. */
  let { text }: { text: string } = $props();
</script>

{#each piecesOf(text) as piece, index (index)}{#if piece.kind === 'words'}{piece.text}{:else}<span
      {@attach (dom) => void drawFormula(dom, piece.tex)}
    ></span>{/if}{/each}
