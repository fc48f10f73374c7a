import type { Loss } from './level';

/** Why a copy is not there, or not with its work. In the order in which they are shown. */
export const CAUSES = [
  'never made',
  'removed',
  'emptied',
  'pasted over',
  'worked elsewhere',
  'wrong assignment',
  'attached',
  'cannot be read',
  'cannot be opened',
  'left',
] as const;
export type Cause = (typeof CAUSES)[number];

/** A page on which the work of a copy stands: another copy of its student, or an own page. Instants in epoch milliseconds. */
export interface Elsewhere {
  page: string;
  title: string;
  /** Null of an own page. */
  assignment: string | null;
  words: number;
  version: number;
  /** When it was last written on, and handed in. */
  written: number;
  handedIn: number | null;
  /** Whether what that page asks for itself is answered, too. */
  hasOwnWork: boolean;
}

/** A gap as a view shows it. Instants in epoch milliseconds. */
export interface Gap {
  cause: Cause;
  assignment: string;
  /** The assignment's original that the copy stands for, or would. */
  for: string;
  class: string;
  /** Null where none was made. */
  copy: string | null;
  /** Who lacks it, or whose it is. */
  students: readonly string[];
  /** When it came about: they joined or left, it was removed, emptied, attached, written elsewhere. */
  since: number | null;
  /** How many words stand in it. */
  words: number;
  /** Of what was emptied or pasted over. */
  loss: Loss | null;
  /** Of what is attached: the names of what the gap is about. */
  attached: readonly string[];
  /** Of work that stands elsewhere. */
  elsewhere: Elsewhere | null;
}

/** What a gap is called by: two of the same name are one gap. */
export const gapKey = ({ cause, assignment, for: page, copy, students }: Gap): string =>
  [cause, assignment, page, copy ?? [...students].sort().join(' ')].join(' ');
