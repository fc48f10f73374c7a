import type { CopyRow } from '../copy/copy-row';
import type { Cause } from '../headcount/gap';

const DAY = 86_400_000;
/** Students who have not begun are named from so long before it is due, until so long after; then they are a gap. */
export const NUDGE_BEFORE = 7 * DAY;
export const NUDGE_AFTER = 14 * DAY;
/** So far ahead the desk looks. */
export const COMING_WITHIN = 14 * DAY;

/** Copies that are not begun matter to the desk when they are due within this time; handed-in ones always. */
export const DESK_SPAN = { before: NUDGE_AFTER, after: Math.max(NUDGE_BEFORE, COMING_WITHIN) };

export interface DeskClass {
  id: string;
  /** "8C" */
  name: string;
  /** The title of its course. */
  title: string;
  /** Whether the person leads it: a marker answers and marks, and the rest is for those who lead. */
  leads: boolean;
}

/** An assignment in one class. Instants in epoch milliseconds. */
export interface DeskAssignment {
  id: string;
  title: string;
  class: DeskClass;
  due: number | null;
}

/** A copy that asks for work. */
export type DeskCopy = Pick<
  CopyRow,
  | 'id'
  | 'assignment'
  | 'class'
  | 'for'
  | 'mask'
  | 'members'
  | 'words'
  | 'facts'
  | 'loss'
  | 'attached'
>;

export interface DeskDraft {
  id: string;
  title: string;
  class: DeskClass;
  /** Null for one that somebody finishes. */
  goesOut: number | null;
  fault: string | null;
}

/** A student wrote in the margin last, and waits. */
export interface Question {
  page: string;
  /** A copy, or a student's own page. */
  kind: 'copy' | 'own page';
  class: string;
  /** "Ada Fennick" */
  by: string;
  at: number;
}

/** Somebody who works on one part of a copy for much longer than the others needed. */
export interface Stuck {
  copy: string;
  class: string;
  mask: string;
  title: string;
  /** "Ada Fennick", or all who share the copy. */
  who: string;
  part: { id: string; number: number; label: string };
  minutes: number;
  /** How many others in the class needed long for it, too. */
  others: number;
  /** When they last wrote. */
  at: number;
}

/** A class whose students see nothing yet. */
interface ClosedClass {
  class: DeskClass;
  /** When it opens by itself. */
  opens: number | null;
}

/** How the office's roster of a class differs from the one here: so many join, leave, or are something else. */
export interface OfficeDifference {
  class: string;
  joins: number;
  leaves: number;
  other: number;
}

/** Who lacks a copy that should be there: of several in one page each. */
export interface Lacking {
  assignment: string;
  class: string;
  student: string;
  since: number | null;
}

/** What the desk's lines are made of. */
export interface DeskView {
  classes: readonly DeskClass[];
  assignments: readonly DeskAssignment[];
  copies: readonly DeskCopy[];
  questions: readonly Question[];
  drafts: readonly DeskDraft[];
  closed: readonly ClosedClass[];
  lacking: readonly Lacking[];
  stuck: readonly Stuck[];
  office: readonly OfficeDifference[];
  /** Of those whose copies lost their work, who lack one or have not begun one. */
  names: Readonly<Record<string, string>>;
}

/** What a line says of one of its classes. `since`: when it began to wait, or is due. */
export interface DeskPlace {
  class: DeskClass;
  /** Copies that wait, gaps, or students who have not begun; of what is coming nothing is counted. */
  count: number;
  since: number | null;
  /** The copy that waits longest, or one that is not begun. */
  copy: { id: string; mask: string } | null;
}

/** Whom a nudge is for: a cell of the board. */
interface IdleCell {
  copy: string;
  student: string;
  assignment: string;
  class: string;
}

/** One thing that needs a teacher's hand: an assignment in one class or several, a draft, … */
export type DeskLine = { id: string; title: string; places: readonly DeskPlace[] } & (
  | { kind: 'answer' }
  | { kind: 'questions'; asked: readonly Question[] }
  /** `who`: the one whose copy it is; null for several. Its id names the assignment and the cause. */
  | { kind: 'gap'; who: string | null; cause: Cause; assignment: string }
  /** Its `title` says who lacks copies. */
  | { kind: 'lacking'; lacking: readonly Lacking[]; assignments: number }
  | { kind: 'nudge'; overdue: boolean; idle: readonly IdleCell[] }
  | { kind: 'stuck'; stuck: Stuck }
  | { kind: 'due' }
  | { kind: 'draft'; fault: string | null }
  /** Several that wait for nothing but somebody to finish them. */
  | { kind: 'drafts' }
  | { kind: 'opens' }
  | { kind: 'office'; difference: OfficeDifference }
);
