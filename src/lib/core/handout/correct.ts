import type { Node } from 'prosemirror-model';
import type { Step } from 'prosemirror-transform';
import { piecesOf, applyPiece } from '../history/apply-piece';

/** What a corrected original brings to one copy of it. */
export interface Correction {
  /** Steps on the copy, in order. */
  steps: Step[];
  /** What the copy's student changed, so that it stays as it is: the original's words there, before and now. */
  conflicts: { was: string; is: string; mine: string }[];
}

const textOf = (blocks: readonly Node[]) =>
  blocks
    .map((block) => block.textContent)
    .join(' ')
    .slice(0, 200);

/**
 * Brings a corrected original into a copy: stretches that its student left as they were become the new ones; what they
 * wrote in stays.
 * @param was the original as the copy has it
 * @param is the original now
 */
export function correct(was: Node, is: Node, copy: Node): Correction {
  const steps: Step[] = [];
  let page = copy;
  // Each step moves the places of those behind it, so they are looked for anew; each is taken once.
  for (let left = piecesOf(was, is, copy).length; left > 0; left--) {
    const piece = piecesOf(was, is, page).find(({ untouched }) => untouched);
    const step = piece && applyPiece(piece, page);
    const next = step?.apply(page).doc;
    if (!step || !next) break;
    steps.push(step);
    page = next;
  }
  const left = piecesOf(was, is, page).filter(({ untouched }) => !untouched);
  return {
    steps,
    conflicts: left.map((piece) => ({
      was: textOf(piece.was),
      is: textOf(piece.is),
      mine: textOf(piece.mine),
    })),
  };
}

/** The words that a correction changes, passage by passage. */
export const passagesOf = (was: Node, is: Node): { was: string; is: string }[] =>
  piecesOf(was, is, was).map((piece) => ({ was: textOf(piece.was), is: textOf(piece.is) }));
