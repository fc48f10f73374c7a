import type { Delivery } from '../handout/spec';
import type { OwnHanding } from './reduce';
import {
  asksForWork,
  isAccepted,
  stateOf,
  type CopyFacts,
  type CopyState,
  type LateRule,
} from './state';

interface Work {
  delivery: Delivery;
  replaced: boolean;
  facts: CopyFacts;
  each: readonly OwnHanding[] | null;
  mask: string;
  late: LateRule;
}

/** The states in which it is the student's turn. */
const THEIRS: readonly CopyState[] = ['unopened', 'opened', 'working', 'attached', 'revising'];
export const isToDo = (work: Work): boolean =>
  asksForWork(work) && THEIRS.includes(stateOf(work.facts));

/**
 * What a student does next, of what is to do: what can still be handed in, first what is due first, also where that has passed;
 * what is due at no time comes after, and what is excused, or not taken any more, last.
 * @param now epoch milliseconds
 */
export function nextWork<T extends Work>(all: readonly T[], now: number): T | null {
  const rank = ({ facts, late }: T) => {
    if (facts.allowance === 'excused' || !isAccepted(late, facts.due, now)) return Infinity;
    return facts.due ?? Number.MAX_SAFE_INTEGER;
  };
  const compare = (a: number, b: number) => (a < b ? -1 : Number(a > b));
  const [next] = all.filter(isToDo).sort((a, b) => compare(rank(a), rank(b)));
  return next && rank(next) !== Infinity ? next : null;
}

/** What the button of the next piece of work says. */
export function sayNextStep({ facts, mask }: Work): string {
  const state = stateOf(facts);
  if (state === 'unopened' || state === 'opened') return 'Begin';
  if (state === 'attached') return 'Hand in';
  return mask.length > 0 && !mask.includes('0') ? 'Look over and hand in' : 'Go on';
}
