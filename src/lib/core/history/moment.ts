import { Node } from 'prosemirror-model';
import { Step } from 'prosemirror-transform';
import { schema } from '../page/schema';
import { moveOn, type Authorship } from './authorship';
import { StepDoesNotFit } from './rebase';
import type { LoggedJson } from './work-line';

/** A part of a page's history that is read at once: a page that was kept, and the steps after it, short of the next one. */
export interface Stretch {
  /** The version of `doc`. */
  version: number;
  doc: object;
  /** Who made that version, when; null for what the page began as. */
  made: { author: string; at: number } | null;
  /** Who had written what of it. */
  authorship: Authorship;
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

/** The steps of a stretch up to a version. @throws RangeError when the version lies outside of it */
function stepsIn(stretch: Stretch, version: number): LoggedJson[] {
  if (version < stretch.version || version > lastOf(stretch))
    throw new RangeError(`version ${version} lies outside of this stretch`);
  return stretch.steps.slice(0, version - stretch.version);
}

/** The page at a version of a stretch. @throws RangeError when the version lies outside of it */
export const momentIn = (stretch: Stretch, version: number): Node =>
  stepsIn(stretch, version).reduce(
    (page, { body }) => applyStep(Step.fromJSON(schema, body), page),
    Node.fromJSON(schema, stretch.doc),
  );

/** Who had written what of the page at a version of a stretch. @throws RangeError when the version lies outside of it */
export const authorshipIn = (stretch: Stretch, version: number): Authorship =>
  moveOn(
    stretch.authorship,
    stepsIn(stretch, version).map(({ body, author, version }) => ({
      step: Step.fromJSON(schema, body),
      author,
      version,
    })),
  );
