import type { Spot } from '../attached/spot';
import type { Anchor } from '../history/anchor';
import type { ProposalView } from '../proposals/proposal';
import type { Stamp } from '../stamps/stamp';
import type { SaidFile } from './said-file';

export interface CommentView {
  id: string;
  kind: 'said' | 'settled' | 'opened again';
  text: string;
  /** A picture, or what was spoken. */
  file: SaidFile | null;
  by: string;
  /** Whether the person who asks wrote it. */
  own: boolean;
  /** Whether a student did. */
  byStudent: boolean;
  /** Its student sees it when the copy goes back. */
  keptBack: boolean;
  /** Epoch milliseconds. */
  at: number;
}

/** A criterion of a rubric, as it was called when something was said on it. */
export interface OnCriterion {
  id: string;
  title: string;
}

export interface ThreadView {
  id: string;
  quote: string;
  /** At the page's version of the same answer; null for a thread on the whole copy. */
  anchor: Anchor | null;
  /** The place on something attached that it is tied to; null for one on the page. */
  on: { attachment: string; name: string; spot: Spot } | null;
  /** The criterion of the rubric that it is on; null for none. */
  criterion: OnCriterion | null;
  settled: boolean;
  /** Students hear nothing of it. */
  staffOnly: boolean;
  /** Its picture, where it is a stamp; what it says is its first comment. */
  stamp: Stamp | null;
  comments: CommentView[];
}

/**
 * For whose answer a conversation waits: the staff's where a student spoke last, the student's where one of the staff asked
 * something. Null when it is settled, or was only told.
 */
export function waitedFor({
  settled,
  staffOnly,
  comments,
}: ThreadView): 'student' | 'staff' | null {
  const last = comments.findLast(({ kind }) => kind === 'said');
  if (settled || staffOnly || !last || last.keptBack) return null;
  if (last.byStudent) return 'staff';
  return /[?？؟]/u.test(last.text) ? 'student' : null;
}

/** What a stamp says, for who does not see it: "Stamp of Ms Orrey: Well seen". */
export function sayStamp(comments: readonly CommentView[]): string {
  const first = comments.find(({ kind }) => kind === 'said');
  return first ? `Stamp of ${first.by}: ${first.text}` : 'Stamp';
}

/** What stands in the margin of a page, at a version of it. */
export interface MarginView {
  version: number;
  threads: ThreadView[];
  proposals: ProposalView[];
}
