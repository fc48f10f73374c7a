import type { Node } from 'prosemirror-model';
import { Transform, type Step } from 'prosemirror-transform';
import { isAnswer } from '../src/lib/core/page/schema';
import type { DemoAnswer } from './answers';
import type { Chance } from './chance';
import { drawAnswer } from './draw-answer';

export interface WrittenStep {
  step: Step;
  /** Epoch milliseconds. */
  at: number;
}

const MINUTE = 60_000;
const SECONDS_A_STROKE = 7;

function findPart(page: Node, id: string): { node: Node; pos: number } {
  let found: { node: Node; pos: number } | null = null;
  page.descendants((node, pos) => {
    if (isAnswer(node) && node.attrs.id === id) found = { node, pos };
    return !found;
  });
  if (!found) throw new Error(`no part ${id}`);
  return found;
}

/** The end of what is written in a part. */
function endOf(page: Node, part: string): number {
  const { node, pos } = findPart(page, part);
  return node.type.name === 'answer_writing' ? pos + node.nodeSize - 2 : pos + node.nodeSize - 1;
}

/** Groups of letters as they come out of a hand: two to nine at a time, pauses at the ends of sentences. */
function bursts(chance: Chance, words: string): string[] {
  const pieces: string[] = [];
  for (let at = 0; at < words.length;) {
    const length = chance.whole(2, 9);
    pieces.push(words.slice(at, at + length));
    at += length;
  }
  return pieces;
}

/**
 * Writes answers into a page as somebody would: in sittings that begin at the given times, with corrections now and
 * then. Each answer takes as long as it takes; the next sitting begins when the last one is 25 minutes old.
 * @param sittings when the sittings begin, in epoch milliseconds, ascending
 */
export function writeAnswers(
  chance: Chance,
  page: Node,
  answers: readonly DemoAnswer[],
  sittings: readonly number[],
): { page: Node; steps: WrittenStep[] } {
  const transform = new Transform(page);
  const times: number[] = [];
  let sitting = 0;
  let at = sittings[0] ?? 0;
  const pass = (milliseconds: number) => {
    at += milliseconds;
    const next = sittings[sitting + 1];
    if (next !== undefined && at - (sittings[sitting] ?? 0) > 25 * MINUTE) {
      sitting += 1;
      at = next;
    }
  };
  const stamp = () => {
    while (times.length < transform.steps.length) times.push(at);
  };
  const parts = answers.filter((answer) => !('lines' in answer)).length;
  answers.forEach((answer, index) => {
    if ('lines' in answer) {
      for (const change of drawAnswer(transform, findPart(transform.doc, answer.part), answer)) {
        change();
        stamp();
        pass(SECONDS_A_STROKE * 1000);
      }
      return;
    }
    const perSitting = Math.ceil(parts / sittings.length);
    const due = Math.floor(index / perSitting);
    if (due > sitting) {
      sitting = due;
      at = sittings[due] ?? at;
    }
    pass(chance.whole(20, 200) * 1000);
    if ('choose' in answer) {
      const { node, pos } = findPart(transform.doc, answer.part);
      node.forEach((option, offset) => {
        if (answer.choose.includes(option.attrs.id))
          transform.setNodeAttribute(pos + 1 + offset, 'chosen', true);
      });
      stamp();
      return;
    }
    for (const burst of bursts(chance, answer.type)) {
      const schema = transform.doc.type.schema;
      transform.insert(endOf(transform.doc, answer.part), schema.text(burst));
      stamp();
      pass(chance.whole(1200, 5200) + (/[.,]/.test(burst) ? chance.whole(1000, 9000) : 0));
      if (answer.type.length > 40 && chance.happens(4)) {
        const end = endOf(transform.doc, answer.part);
        const wrong = chance.one(['teh ', 'wich ', 'becuase ', 'hte ']);
        transform.insert(end, schema.text(wrong));
        stamp();
        pass(1500);
        transform.delete(end, end + wrong.length);
        stamp();
        pass(900);
      }
    }
  });
  return {
    page: transform.doc,
    steps: transform.steps.map((step, index) => ({ step, at: times[index] ?? at })),
  };
}
