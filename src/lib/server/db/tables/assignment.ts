import type { ColumnType, Generated } from 'kysely';
import type { Counting } from '$core/grades/grade-line';
import type { Delivery, HandOutSpec } from '$core/handout/spec';
import type { Made, Json, Instant, MaybeInstant, Points } from './columns';

interface Assignment {
  id: Made<string>;
  school_id: number;
  title: string;
  instructions: string;
  points: Points;
  guarded: boolean;
  made_by: string;
  made_at: Made<Date>;
  /** What was asked for, as it stands after all changes: who gets what, and how. */
  spec: ColumnType<object | null, string | null, string | null>;
  category: Made<string>;
  rubric_id: string | null;
  form: Made<HandOutSpec['form']>;
  late: Made<HandOutSpec['late']>;
  /** Of the pages that a class shares. */
  hand_in: Made<HandOutSpec['handIn']>;
  marking: Made<HandOutSpec['marking']>;
  /** Minutes before it is due. */
  reminder: number | null;
}

interface AssignmentClass {
  assignment_id: string;
  school_id: number;
  class_id: string;
  unit_id: string | null;
  handed_out_at: Instant;
  due_at: MaybeInstant;
  /** Out of its students' sight; it can be brought back. */
  withdrawn_at: MaybeInstant;
  /** Comments and proposals wait until their copy goes back. */
  feedback_waits: Made<boolean>;
  /** Its students score their copies themselves, by its rubric. */
  own_scoring: Made<boolean>;
  /** Classmates who score each other’s copies see whose they are, and whose scoring they got. */
  classmates_named: Made<boolean>;
  /** When anything about it here was changed last. */
  changed_at: Made<Date>;
  /** How its points count here. */
  counting: Made<Counting>;
}

interface AssignmentOriginal {
  assignment_id: string;
  school_id: number;
  page_id: string;
  version: number;
  delivery: Delivery;
  /** Of an adapted page: the assignment's original whose place it takes for some. */
  instead_of: string | null;
}

/** What is to be handed out: a draft, or planned for a time. With a name: a template of one's own. */
interface HandOutRow {
  id: Made<string>;
  school_id: number;
  class_id: string | null;
  made_by: string;
  name: string | null;
  spec: Json<object>;
  /** How often it was saved. */
  version: Made<number>;
  changed_at: Made<Date>;
  changed_by: string;
  goes_out_at: MaybeInstant;
  handed_out_at: MaybeInstant;
  /** Why it did not go out at its time. */
  fault: string | null;
  away_at: MaybeInstant;
}

interface AssignmentChange {
  id: Made<string>;
  school_id: number;
  assignment_id: string;
  made_by: string;
  made_at: Made<Date>;
  was: Json<object>;
  became: Json<object>;
  facts: Json<object>;
  undone_at: MaybeInstant;
  /** Which change this one undid. */
  undoes: Made<string | null>;
}

interface Allowance {
  id: Generated<string>;
  school_id: number;
  assignment_id: string;
  person_id: string;
  kind: 'extension' | 'excused' | 'as for all';
  due_at: MaybeInstant;
  note: Made<string>;
  made_by: string;
  at: Made<Date>;
}

/** What is handed out, and to whom. */
export interface AssignmentTables {
  assignment: Assignment;
  assignment_class: AssignmentClass;
  assignment_original: AssignmentOriginal;
  hand_out: HandOutRow;
  assignment_change: AssignmentChange;
  allowance: Allowance;
}
