import type { Made, Json, MaybeInstant } from './columns';

interface Course {
  id: Made<string>;
  school_id: number;
  title: string;
  /** When its owner removed it. */
  away_at: MaybeInstant;
}

interface CourseStaff {
  course_id: string;
  school_id: number;
  person_id: string;
  may: CourseRight;
}

export type CourseRight = 'own' | 'write' | 'use';

interface Rubric {
  id: Made<string>;
  school_id: number;
  course_id: string;
  unit_id: string | null;
  title: string;
  body: Json<object>;
  /** How often it was saved. */
  version: Made<number>;
  saved_by: Made<string | null>;
  place: Made<number>;
  made_by: string;
  made_at: Made<Date>;
  away_at: MaybeInstant;
  /** The rubric of another course that it is a copy of. */
  from_id: Made<string | null>;
  /** The course it was moved out of last. */
  moved_from: Made<string | null>;
}

/** A change of a rubric, with the rubric as it stood before. */
interface RubricChange {
  rubric_id: string;
  /** The one that was changed. */
  version: number;
  school_id: number;
  title: string;
  body: Json<object>;
  changed_by: string;
  at: Made<Date>;
}

/** A change of what a page adapts that is to stay as it is there. */
interface AdaptedLeft {
  page_id: string;
  school_id: number;
  /** Names the change. */
  key: string;
}

interface Note {
  id: Made<string>;
  school_id: number;
  /** A note is about one of these. */
  course_id: string | null;
  unit_id: string | null;
  page_id: string | null;
  rubric_id: string | null;
  text: string;
  made_by: string;
  made_at: Made<Date>;
  settled_at: MaybeInstant;
}

interface CodeSet {
  id: Made<string>;
  school_id: number;
  title: string;
  made_by: string;
  made_at: Made<Date>;
  away_at: MaybeInstant;
}

interface Code {
  id: Made<string>;
  school_id: number;
  set_id: string;
  code: string;
  statement: string;
  parent_id: string | null;
  place: number;
  /** Its list named it no more when it was read again. */
  away_at: MaybeInstant;
}

interface CodeTag {
  code_id: string;
  school_id: number;
  /** A code is on one of these: a page, a criterion of a rubric, an assignment. */
  page_id: string | null;
  rubric_id: string | null;
  criterion: string | null;
  assignment_id: string | null;
}

/** Courses, and what belongs to them. */
export interface CourseTables {
  course: Course;
  course_staff: CourseStaff;
  rubric: Rubric;
  rubric_change: RubricChange;
  adapted_left: AdaptedLeft;
  note: Note;
  code_set: CodeSet;
  code: Code;
  code_tag: CodeTag;
}
