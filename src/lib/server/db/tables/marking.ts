import type { OnCriterion } from '$core/copy/threads';
import type { ColumnType, Generated } from 'kysely';
import type { ProposalKind } from '$core/proposals/proposal';
import type { Made, Json, MaybeInstant, Points } from './columns';

interface MarkingPlaceRow {
  person_id: string;
  assignment_id: string;
  class_id: string;
  school_id: number;
  page_id: string;
  line_order: 'waiting' | 'name' | 'group';
  unmarked_only: boolean;
  /** Copies that are dealt to others, too. */
  all_copies: Made<boolean>;
}

/** Who marks a copy: one person, or two. */
interface MarkerRow {
  page_id: string;
  person_id: string;
  school_id: number;
}

interface Score {
  id: Generated<string>;
  school_id: number;
  page_id: string;
  person_id: string;
  at: Made<Date>;
  /** Typed, or overruling what the rubric comes to. */
  points: Points;
  /** By the rubric, with the rubric as it was then. */
  scoring: ColumnType<object | null, string | null | undefined, never>;
  /** By the answer keys: what each part came to. */
  checked: ColumnType<object | null, string | null | undefined, never>;
  /** Kept for speed: what a scoring of every criterion came to, of the most its rubric can give; of a check, the parts. */
  rubric_points: Points;
  rubric_most: Points;
  version: number;
  /** Why it differs from what the copy had before, for its students. */
  why: Made<string | null>;
}

/** What one of two who mark a copy gives it; it does not count before both have. */
type ScoreApart = Omit<Score, 'why'>;

/** What students scored a copy with: their own, or a classmate’s. */
interface StudentScoring {
  id: Generated<string>;
  school_id: number;
  page_id: string;
  /** The copy of those who gave it; null where they scored their own. */
  by_page_id: Made<string | null>;
  person_id: string;
  at: Made<Date>;
  version: number;
  scoring: Json<object>;
}

/** A copy, as it stood in a version, that the students of another copy read and score. */
interface ReadingRow {
  page_id: string;
  by_page_id: string;
  school_id: number;
  version: number;
}

/** What the students of a copy gave another does not go back to its students. */
interface WithheldScoring {
  page_id: string;
  by_page_id: string;
  school_id: number;
}

/** A copy that is an example of a step of a rubric, as it stood in a version. */
interface ExampleRow {
  id: Made<string>;
  school_id: number;
  rubric_id: string;
  /** An id of the rubric’s. */
  criterion: string;
  points: string;
  page_id: string;
  version: number;
  made_by: string;
  made_at: Made<Date>;
  away_at: MaybeInstant;
}

interface Thread {
  id: Made<string>;
  school_id: number;
  page_id: string;
  made_by: string;
  made_at: Made<Date>;
  quote: string;
  /** Where its words stood when it was made; null for a thread on the whole copy. */
  made_version: number;
  made_from: number | null;
  made_to: number | null;
  /** Kept for speed: where they stand at the page's newest version. */
  at_from: number | null;
  at_to: number | null;
  /** The place on something attached that it is tied to instead. */
  attachment_id: Made<string | null>;
  spot: ColumnType<object | null, string | null | undefined, string | null>;
  /** Students hear nothing of it. */
  staff_only: Made<boolean>;
  /** Its picture, of one that is a stamp. */
  stamp: ColumnType<object | null, string | null | undefined, never>;
  /** The criterion of the rubric that it is on, as it was called then. */
  criterion: ColumnType<OnCriterion | null, string | null | undefined, never>;
}

interface Comment {
  id: Generated<string>;
  school_id: number;
  thread_id: string;
  person_id: string;
  at: Made<Date>;
  kind: 'said' | 'settled' | 'opened again';
  text: string;
  /** It goes to the student when the copy goes back. */
  kept_back: Made<boolean>;
  /** A picture, or what was spoken. */
  upload_id: Made<string | null>;
  /** Of which part, of one that was said on a pile of answers, and in which words before names were filled in. */
  pile: ColumnType<{ part: string; text: string } | null, string | null | undefined, never>;
}

/** That whoever wrote a comment withdrew it before its student had it. */
interface CommentWithdrawal {
  comment_id: string;
  school_id: number;
  at: Made<Date>;
}

/** A stamp of a teacher's own. */
interface StampRow {
  id: Made<string>;
  school_id: number;
  owner_id: string;
  word: string;
  /** A PNG. */
  picture: Buffer;
  made_at: Made<Date>;
  away_at: MaybeInstant;
}

/** A comment that a teacher writes again and again. */
interface PhraseRow {
  id: Made<string>;
  school_id: number;
  owner_id: string;
  /** The course whose colleagues share it. */
  course_id: string | null;
  text: string;
  version: Made<number>;
  made_at: Made<Date>;
  away_at: MaybeInstant;
}

/** That somebody used a phrase. */
interface PhraseUse {
  id: Generated<string>;
  phrase_id: string;
  person_id: string;
  at: Made<Date>;
}

/** An edit that one of the staff offers. */
interface ProposalRow {
  id: Made<string>;
  school_id: number;
  page_id: string;
  person_id: string;
  at: Made<Date>;
  /** The version of the page that it was made on. */
  version: number;
  offer: ColumnType<object, string, never>;
  kind: ProposalKind;
  was: string;
  becomes: string;
  kept_back: boolean;
}

interface ProposalDecisionRow {
  id: Generated<string>;
  school_id: number;
  proposal_id: string;
  person_id: string;
  at: Made<Date>;
  kind: 'taken' | 'left' | 'withdrawn' | 'opened again' | 'undone';
  /** The versions of the page before and after, of one that was taken or undone. */
  first_version: Made<number | null>;
  version: Made<number | null>;
  /** How one that was undone stands anew, at `version`. */
  offer: ColumnType<object | null, string | null | undefined, never>;
}

/** Who marks, what is said and scored. */
export interface MarkingTables {
  marking_place: MarkingPlaceRow;
  marker: MarkerRow;
  score: Score;
  score_apart: ScoreApart;
  student_scoring: StudentScoring;
  reading: ReadingRow;
  withheld_scoring: WithheldScoring;
  example: ExampleRow;
  thread: Thread;
  comment: Comment;
  comment_withdrawal: CommentWithdrawal;
  stamp: StampRow;
  phrase: PhraseRow;
  phrase_use: PhraseUse;
  proposal: ProposalRow;
  proposal_decision: ProposalDecisionRow;
}
