import type { Node } from 'prosemirror-model';
import { Step } from 'prosemirror-transform';
import { applyStep } from '../history/moment';
import { PASTED, textIn, type LoggedJson } from '../history/work-line';
import { strokesDrawn } from '../page/drawing';
import { countWords, partsOf, textWritten, wordsWritten, type Part } from '../page/parts';
import { schema } from '../page/schema';
import { asksForPairs, firstLevel, nextLevel, type Level } from './level';
import { wordPairs } from './word-pairs';

/** How much is written and drawn on a page. @param parts its parts, where they are known */
export const amountOn = (page: Node, parts: readonly Part[] = partsOf(page)) => ({
  words: wordsWritten(page, parts),
  strokes: strokesDrawn(page),
});

/** How many words the pastes among some steps brought. */
const wordsPasted = (bodies: readonly object[]): number =>
  bodies.reduce(
    (sum, body) => sum + (PASTED in body && 'slice' in body ? countWords(textIn(body.slice)) : 0),
    0,
  );

const pairsOn = (page: Node) => wordPairs(textWritten(page, partsOf(page)));

/** A change of a page by the steps of one transaction. */
interface Change {
  before: Node;
  after: Node;
  bodies: readonly object[];
  /** Epoch milliseconds. */
  at: number;
  /** The version that it made. */
  version: number;
  /** The parts of the page after it, where they are known. */
  parts?: readonly Part[];
}

/** The level of a page after one more transaction. */
export function levelAfter(level: Level, { before, after, bodies, parts, ...when }: Change): Level {
  const now = { ...when, ...amountOn(after, parts), pasted: wordsPasted(bodies) };
  const pairs = asksForPairs(level, now) ? { before: pairsOn(before), now: pairsOn(after) } : null;
  return nextLevel(level, { ...now, pairs });
}

/**
 * A copy and its level, told from its steps alone; null before the first. Those of one transaction carry the same time.
 */
export function followSteps(
  start: Node,
  steps: readonly LoggedJson[],
): { page: Node; level: Level | null } {
  let page = start;
  let before = start;
  let bodies: object[] = [];
  let level = firstLevel({ version: 0, ...amountOn(page) });
  for (const [index, { body, at, version }] of steps.entries()) {
    page = applyStep(Step.fromJSON(schema, body), page);
    bodies.push(body);
    if (steps[index + 1]?.at === at) continue;
    level = levelAfter(level, { before, after: page, bodies, at, version });
    [before, bodies] = [page, []];
  }
  return { page, level: steps.length > 0 ? level : null };
}
