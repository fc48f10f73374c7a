import type { Delivery, HandOutSpec } from '../handout/spec';
import type { EventKind, Handing, OwnHanding } from './reduce';

/** What is known of a copy. Instants in epoch milliseconds; null means it has not happened. */
export interface CopyFacts extends Omit<Handing, 'openers'> {
  /** The student's own last step. */
  written: number | null;
  /** What is attached to it was attached last then. */
  attached: number | null;
  /** The last score given. */
  scored: number | null;
  due: number | null;
  /** What was allowed to its student alone: `due` is theirs then, or it does not count. */
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

/** Whether it was scored since it was handed in last. */
export const isScoredNow = ({ scored, handedIn }: CopyFacts): boolean => after(scored, handedIn);

/** Whether something that was given at a moment is of the work as it was handed in last: epoch milliseconds. */
export const isOfThisRound = (at: number, { handedIn }: CopyFacts): boolean =>
  at >= (handedIn ?? 0);

export function stateOf(facts: CopyFacts): CopyState {
  if (after(facts.handedIn, facts.handedBack)) return isScoredNow(facts) ? 'marked' : 'handed in';
  if (facts.handedBack !== null) {
    const begun =
      after(facts.written, facts.handedBack) ||
      after(facts.attached, facts.handedBack) ||
      after(facts.takenBack, facts.handedBack);
    return begun ? 'revising' : 'handed back';
  }
  if (facts.attached !== null) return 'attached';
  if (facts.written !== null) return 'working';
  return facts.opened !== null ? 'opened' : 'unopened';
}

/** @param now epoch milliseconds */
export function flagsOf(facts: CopyFacts, now: number): CopyFlags {
  const { due, counted, handedBack } = facts;
  const changed = Math.max(facts.written ?? 0, facts.attached ?? 0, facts.handedIn ?? 0) || null;
  const excused = facts.allowance === 'excused';
  const counts = !excused && due !== null;
  return {
    late: counts && counted !== null && counted > due,
    overdue: counts && counted === null && handedBack === null && now > due,
    extension: facts.allowance === 'extension',
    excused,
    unread: after(changed, facts.looked),
    now: facts.written !== null && now - facts.written < WRITING_NOW,
  };
}

/** Whether anything is asked of a copy's students: not of what is only read, nor of what was replaced. */
export const asksForWork = (copy: { delivery: Delivery; replaced: boolean }): boolean =>
  copy.delivery !== 'to read' && !copy.replaced;

interface ForSeveral {
  delivery: Delivery;
  facts: CopyFacts;
  openers: readonly string[];
  each: readonly OwnHanding[] | null;
}

/** Whether a copy that several have stands for each of them alone: it is only read, or each says *done*. */
export const standsForEach = ({ delivery, each }: Pick<ForSeveral, 'delivery' | 'each'>): boolean =>
  delivery === 'to read' || each !== null;

/**
 * How a copy stands for one of its students. What is only read is opened by each for themselves, and never overdue. Where each
 * says *done*, that is their handing in; once it is with the teacher it is handed in for everybody.
 */
export function factsFor(copy: ForSeveral, student: string): CopyFacts {
  const { facts } = copy;
  if (copy.delivery === 'to read')
    return { ...facts, opened: copy.openers.includes(student) ? facts.opened : null, due: null };
  const own = copy.each?.find((one) => one.student === student);
  if (!own) return facts;
  const isWith = isWithTeacher(stateOf(facts));
  // A look or a score while others go on with it holds nobody to what they said.
  const since = (at: number | null) => (isWith && after(at, facts.handedIn) ? at : null);
  return {
    ...facts,
    handedIn: own.handedIn ?? (isWith ? facts.handedIn : null),
    counted: own.counted ?? (isWith ? facts.counted : null),
    takenBack: own.takenBack,
    staffLooked: since(facts.staffLooked),
    scored: since(facts.scored),
  };
}

type SaidOf = Pick<ForSeveral, 'each' | 'facts'>;

/** Those who share a page and have not said *done* since it was handed back last; null where one hands in for all. */
export const notDone = ({ each, facts }: SaidOf): string[] | null =>
  each &&
  each.filter((one) => !after(one.handedIn, facts.handedBack)).map(({ student }) => student);

/** What is recorded when a student hands a copy in: where each says *done*, the last of them hands it in. */
export const handInKinds = (copy: SaidOf, student: string): EventKind[] => {
  const others = notDone(copy)?.filter((one) => one !== student);
  if (!others) return ['handed in'];
  return others.length === 0 ? ['said done', 'handed in'] : ['said done'];
};

/** What is recorded when a student takes it back. */
export const takeBackKinds = (copy: SaidOf): EventKind[] => {
  if (!copy.each) return ['taken back'];
  return isWithTeacher(stateOf(copy.facts)) ? ['took done back', 'taken back'] : ['took done back'];
};

/** A student may write until they hand in, and again once it is handed back. */
export const mayWrite = (state: CopyState): boolean => !isWithTeacher(state);

/** Whether an assignment takes work after its due time. */
export type LateRule = 'taken' | 'not taken';

/** Whether work that was never handed in is still accepted. @param now epoch milliseconds */
export const isAccepted = (rule: LateRule, due: number | null, now: number): boolean =>
  rule === 'taken' || due === null || now <= due;

/** Why a copy cannot be handed in now; null when it can. What was handed in in time may come again. */
export function handInFault(
  facts: CopyFacts,
  rule: LateRule,
  now: number,
): 'is handed in' | 'comes too late' | null {
  if (isWithTeacher(stateOf(facts))) return 'is handed in';
  if (facts.counted === null && !isAccepted(rule, facts.due, now)) return 'comes too late';
  return null;
}

/** Why what was handed in cannot be taken back now; null when it can. */
export function takeBackFault(
  facts: CopyFacts,
  rule: LateRule,
  now: number,
  marking: HandOutSpec['marking'] = 'by hand',
): 'is not handed in' | 'marks itself' | 'is being looked at' | 'could not come again' | null {
  const state = stateOf(facts);
  if (!isWithTeacher(state)) return 'is not handed in';
  // Its student is not told how it was marked before it is back; nor by this.
  if (marking !== 'by hand') return 'marks itself';
  if (state === 'marked' || after(facts.staffLooked, facts.handedIn)) return 'is being looked at';
  const counts = facts.counted === facts.handedIn;
  return counts && !isAccepted(rule, facts.due, now) ? 'could not come again' : null;
}

/**
 * Why a copy cannot be handed back now; null when it can. Work that was not handed in can be: a teacher may end an
 * assignment with what is there, and score what was done elsewhere. Who may do it says the line `mark` of the table of rights.
 */
export const handBackFault = (facts: CopyFacts): 'is untouched' | null =>
  [facts.opened, facts.written, facts.handedIn, facts.scored].every((at) => at === null)
    ? 'is untouched'
    : null;

/** Whether somebody can be reminded of a copy by hand: it asks for work, and they still have to hand it in. */
export function canBeReminded(
  copy: { delivery: Delivery; replaced: boolean },
  own: CopyFacts,
): boolean {
  const state = stateOf(own);
  const isTheirs = !isWithTeacher(state) && state !== 'handed back';
  return asksForWork(copy) && isTheirs && own.allowance !== 'excused';
}

/** Whether its students are reminded that it is due. @param now epoch milliseconds */
export const wantsReminder = (facts: CopyFacts, now: number): boolean =>
  facts.allowance !== 'excused' &&
  facts.due !== null &&
  now <= facts.due &&
  facts.counted === null &&
  facts.handedBack === null;

/**
 * How far the hand-in that stands is from its due time, in milliseconds; above zero is late. Null where it does not count:
 * a revision, an excused student, no due time.
 */
export const marginOf = ({ counted, handedIn, due, allowance }: CopyFacts): number | null =>
  counted === null || counted !== handedIn || due === null || allowance === 'excused'
    ? null
    : counted - due;

/** The words beside a rosette: state first, then how far. */
export function sayState(state: CopyState, flags: CopyFlags, mask: string): string {
  const done = mask.replaceAll('0', '').length;
  if (flags.excused && !isWithTeacher(state) && state !== 'handed back') return 'excused';
  if (flags.overdue && !isWithTeacher(state)) return 'overdue';
  if (state === 'attached') return 'not handed in';
  if (state === 'working') return `${done} of ${mask.length}`;
  return state;
}
