import type { Node } from 'prosemirror-model';
import { Step } from 'prosemirror-transform';
import { applyStep } from '../history/moment';
import type { LoggedJson } from '../history/work-line';
import { strokesDrawn } from '../page/drawing';
import { partsOf, wordsWritten, type Part } from '../page/parts';
import { schema } from '../page/schema';
import { firstLevel, nextLevel, type Level } from './level';

/** How much is written and drawn on a page. @param parts its parts, where they are known */
export const amountOn = (page: Node, parts: readonly Part[] = partsOf(page)) => ({
  words: wordsWritten(page, parts),
  strokes: strokesDrawn(page),
});

/**
 * A copy and its level, told from its steps alone; null before the first. Those of one transaction carry the same time.
 */
export function followSteps(
  start: Node,
  steps: readonly LoggedJson[],
): { page: Node; level: Level | null } {
  let page = start;
  let level = firstLevel({ version: 0, ...amountOn(page) });
  for (const [index, { body, at, version }] of steps.entries()) {
    page = applyStep(Step.fromJSON(schema, body), page);
    if (steps[index + 1]?.at !== at) level = nextLevel(level, { at, version, ...amountOn(page) });
  }
  return { page, level: steps.length > 0 ? level : null };
}
