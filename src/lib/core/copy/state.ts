import type { Delivery } from '../handout/wish';

/** All instants are epoch milliseconds; null means it has not happened. */
export interface CopyFacts {
  /** When its student first opened it. */
  opened: number | null;
  /** The student's own last step. */
  written: number | null;
  attached: number | null;
  handedIn: number | null;
  /** The first time it was handed in, which decides whether it was late. */
  firstHandedIn: number | null;
  takenBack: number | null;
  /** The last score given. */
  scored: number | null;
  handedBack: number | null;
  /** When the person who asks last looked inside; always null for students. */
  looked: number | null;
  /** When any of the staff last looked inside. */
  staffLooked: number | null;
  due: number | null;
  /** What was allowed to its student alone: `due` is hers then, or it does not count. */
  allowance: 'extension' | 'excused' | null;
}

export type CopyState =
  | 'unopened'
  | 'opened'
  | 'working'
  | 'attached'
  | 'handed in'
  | 'marked'
  | 'handed back'
  | 'revising';

export interface CopyFlags {
  late: boolean;
  overdue: boolean;
  extension: boolean;
  excused: boolean;
  /** Its student changed it, or handed it in, since the person who asks last looked. */
  unread: boolean;
  /** Somebody is writing in it. */
  now: boolean;
}

/** Someone whose last step is not older than this is writing now: 20 seconds, in milliseconds. */
const WRITING_NOW = 20_000;

const after = (a: number | null, b: number | null): boolean => a !== null && (b === null || a > b);

/** Whether the student has given it to the teacher and not got it back. */
export const isWithTeacher = (state: CopyState): boolean =>
  state === 'handed in' || state === 'marked';

export function stateOf(facts: CopyFacts): CopyState {
  const handedIn = after(facts.handedIn, facts.takenBack);
  if (handedIn && after(facts.handedIn, facts.handedBack))
    return after(facts.scored, facts.handedIn) ? 'marked' : 'handed in';
  if (facts.handedBack !== null) {
    const begun =
      after(facts.written, facts.handedBack) || after(facts.takenBack, facts.handedBack);
    return begun ? 'revising' : 'handed back';
  }
  if (facts.attached !== null) return 'attached';
  if (facts.written !== null) return 'working';
  return facts.opened !== null ? 'opened' : 'unopened';
}

/** @param now epoch milliseconds */
export function flagsOf(facts: CopyFacts, now: number): CopyFlags {
  const { due, firstHandedIn: first } = facts;
  const changed = Math.max(facts.written ?? 0, facts.handedIn ?? 0) || null;
  const excused = facts.allowance === 'excused';
  return {
    late: !excused && due !== null && first !== null && first > due,
    overdue: !excused && due !== null && first === null && now > due,
    extension: facts.allowance === 'extension',
    excused,
    unread: after(changed, facts.looked),
    now: facts.written !== null && now - facts.written < WRITING_NOW,
  };
}

/** Whether anything is asked of a copy's students: not of what is only read, nor of what was replaced. */
export const asksForWork = (copy: { delivery: Delivery; replaced: boolean }): boolean =>
  copy.delivery !== 'to read' && !copy.replaced;

/** How a copy stands for one of its students: what is only read is opened by each for herself, and never overdue. */
export const factsFor = (
  copy: { delivery: Delivery; facts: CopyFacts; openers: readonly string[] },
  student: string,
): CopyFacts =>
  copy.delivery === 'to read'
    ? {
        ...copy.facts,
        opened: copy.openers.includes(student) ? copy.facts.opened : null,
        due: null,
      }
    : copy.facts;

/** A student may write until she hands in, and again once it is handed back. */
export const mayWrite = (state: CopyState): boolean => !isWithTeacher(state);

/** What was handed in can be taken back until one of the staff has looked at it. */
export const mayTakeBack = (facts: CopyFacts): boolean =>
  stateOf(facts) === 'handed in' && !after(facts.staffLooked, facts.handedIn);

/** Handing in again needs something handed back; handing in at all needs only a copy that is not handed in. */
export const mayHandIn = (state: CopyState): boolean => !isWithTeacher(state);

/** Whether its due time is over for something that was never handed in. @param now epoch milliseconds */
export const isTooLate = (facts: CopyFacts, now: number): boolean =>
  facts.due !== null && now > facts.due && facts.firstHandedIn === null;

/** The words beside a rosette: state first, then how far. */
export function stateWords(state: CopyState, flags: CopyFlags, mask: string): string {
  const done = mask.replaceAll('0', '').length;
  if (flags.excused && !isWithTeacher(state) && state !== 'handed back') return 'excused';
  if (flags.overdue && !isWithTeacher(state)) return 'overdue';
  if (state === 'attached') return 'not handed in';
  if (state === 'working') return `${done} of ${mask.length}`;
  return state;
}
