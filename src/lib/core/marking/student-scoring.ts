import type { Scoring } from './scoring';

/** What students scored a copy with, by the rubric of its assignment. */
export interface StudentScoring {
  id: string;
  scoring: Scoring;
}

/** The same as they have it before them. */
export interface StudentScoringAsked {
  rubric: Scoring['rubric'];
  /** What they gave last; null for nothing yet. */
  last: StudentScoring | null;
}

/** What a student has back from a classmate; `who` is null where names are hidden. */
export interface ClassmatesFeedback {
  who: string | null;
  scoring: Scoring;
}

/** The same as the staff have it. */
export interface ClassmatesScoring extends ClassmatesFeedback {
  /** The copy of those who gave it. */
  by: string;
  /** It does not go back to those whose copy it is. */
  withheld: boolean;
}
