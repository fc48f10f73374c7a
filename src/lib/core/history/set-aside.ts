import { ReplaceAroundStep, ReplaceStep, type Step } from 'prosemirror-transform';

/** The words a step would have put into the page; empty for a step that only took away or marked. */
export function textOfStep(step: Step): string {
  if (!(step instanceof ReplaceStep || step instanceof ReplaceAroundStep)) return '';
  return step.slice.content.textBetween(0, step.slice.content.size, ' ');
}
