import { Node } from 'prosemirror-model';
import { Step } from 'prosemirror-transform';
import { schema } from '../page/schema';
import { StepDoesNotFit } from './rebase';
import type { LoggedJson } from './work-line';

/** A part of a page's history that is read at once: a page that was kept, and the steps after it up to the next one. */
export interface Stretch {
  /** The version of `doc`. */
  version: number;
  doc: object;
  steps: LoggedJson[];
}

/** The page that a step makes of another. @throws StepDoesNotFit */
export function applyStep(step: Step, page: Node): Node {
  let failed: unknown;
  try {
    const result = step.apply(page);
    if (result.doc) return result.doc;
    failed = result.failed;
  } catch (error) {
    failed = error;
  }
  throw new StepDoesNotFit('a step does not fit its page', { cause: failed });
}

export const lastOf = ({ version, steps }: Stretch): number => version + steps.length;

/** The page at a version of a stretch. @throws RangeError when the version lies outside of it */
export function momentIn(stretch: Stretch, version: number): Node {
  if (version < stretch.version || version > lastOf(stretch))
    throw new RangeError(`version ${version} lies outside of this stretch`);
  return stretch.steps
    .slice(0, version - stretch.version)
    .reduce(
      (page, { body }) => applyStep(Step.fromJSON(schema, body), page),
      Node.fromJSON(schema, stretch.doc),
    );
}
