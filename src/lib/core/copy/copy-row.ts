import type { Delivery } from '../handout/spec';
import type { Loss } from '../headcount/level';
import type { Attached } from '../attached/attached';
import type { OwnHanding } from './reduce';
import { factsFor, stateOf, type CopyFacts } from './state';

/** A copy as the board and the lists show it. Instants in epoch milliseconds. */
export interface CopyRow {
  id: string;
  assignment: string;
  class: string;
  /** Whose alone it is; null for one that several share. */
  student: string | null;
  /** Who has it: its student, or those who share it. */
  members: string[];
  /** Which of them have opened it. */
  openers: string[];
  /** Of a shared one: its group's name, or empty for the whole class. */
  group: string;
  delivery: Delivery;
  /** The assignment's original that it stands for. */
  for: string;
  /** Its students were given something else, and only read it now. */
  replaced: boolean;
  /** Which parts are done ("101"): those of its page, and what is attached as one more. */
  mask: string;
  words: number;
  version: number;
  /** Its last score: an id. */
  score: string | null;
  /** What that comes to: a decimal text. */
  points: string | null;
  /** The points that it was last handed back with. */
  pointsBack: string | null;
  /** What went of it at once. */
  loss: Loss | null;
  /** What its students attached to it, the oldest first. */
  attached: readonly Attached[];
  facts: CopyFacts;
  /** Of one that each of them says *done* of: how each stands. Null where one hands in for all. */
  each: OwnHanding[] | null;
}

/** The one projection: what a student may know of a copy of theirs. A score that is not handed back is the staff's alone. */
export function asStudentSees(copy: CopyRow, student: string): CopyRow {
  const points = copy.pointsBack;
  return {
    ...copy,
    score: null,
    points,
    // Whether the others have opened what they share is for the staff, too.
    openers: copy.openers.filter((id) => id === student),
    each: copy.each && copy.each.filter((one) => one.student === student),
    facts: {
      ...factsFor(copy, student),
      looked: null,
      // What the staff make of a gap is theirs.
      accepted: null,
      scored: points === null ? null : copy.facts.handedBack,
    },
  };
}

/** Whether a copy that is back with its student has other points by now. */
export const isBehind = ({ facts, points, pointsBack }: CopyRow): boolean =>
  stateOf(facts) === 'handed back' && points !== null && points !== pointsBack;
