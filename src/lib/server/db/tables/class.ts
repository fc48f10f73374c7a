import type { ColumnType, Generated } from 'kysely';
import type { Made, Json, Instant, MaybeInstant } from './columns';

interface Class {
  id: Made<string>;
  school_id: number;
  course_id: string;
  term_id: string;
  name: string;
  opened_at: MaybeInstant;
  /** When it opens by itself, if it is not open before. */
  opens_at: MaybeInstant;
  /** How to reach the staff. */
  about: Made<string>;
  /** What somebody who joins later gets of what was handed out before. */
  join_rule: Made<'open' | 'coming' | 'ask'>;
  /** How it counts points; null while nobody has said it. */
  grade_rules: ColumnType<object | null, object | string | null | undefined, string>;
  grade_rules_version: Made<number>;
  /** The term is closed: nothing in it changes any more. */
  archived_at: MaybeInstant;
  /** The last day on which its students read their own work then; null: they do not. */
  read_until: Made<string | null>;
  /** Of one that was opened from an archive: the calendar and the name of the school that it comes from. */
  brought: ColumnType<object | null, object | string | null | undefined, string | null>;
}

interface ClassStaff {
  class_id: string;
  school_id: number;
  person_id: string;
  kind: 'lead' | 'co-teacher' | 'marker';
}

interface Enrolment {
  class_id: string;
  school_id: number;
  person_id: string;
  joined_at: Instant;
  left_at: MaybeInstant;
}

/** A teacher asks somebody whom others teach into a class; they, or the office, say yes or no. */
interface JoinRequest {
  class_id: string;
  school_id: number;
  person_id: string;
  asked_by: string;
  asked_at: Made<Date>;
  answered_at: MaybeInstant;
  accepted: Made<boolean | null>;
}

interface LessonSlotRow {
  id: Made<string>;
  school_id: number;
  class_id: string;
  weekday: number;
  starts: string;
  ends: string;
}

interface Unit {
  id: Made<string>;
  school_id: number;
  /** A unit is of a class or of a course. */
  class_id: string | null;
  course_id: string | null;
  /** The unit it was carried over from. */
  from_id: string | null;
  away_at: MaybeInstant;
  /** Of a class: in the cupboard, out of its students' sight. */
  stored_at: MaybeInstant;
  title: string;
  place: number;
  /** Of one that was taken away: the pages and rubrics that stood in it. */
  held: Made<string[]>;
}

interface ClassBuild {
  id: Made<string>;
  school_id: number;
  class_id: string;
  made_by: string;
  made_at: Made<Date>;
  spec: Json<object>;
  total: number;
  done: Made<number>;
  finished_at: MaybeInstant;
  fault: string | null;
}

/** The closing of a class's term, and its opening again. */
interface ClassEvent {
  id: Generated<string>;
  school_id: number;
  class_id: string;
  person_id: string;
  at: Made<Date>;
  kind: 'archived' | 'opened again';
}

/** An archive that is made, or one that was brought to be opened. */
interface Archive {
  id: Made<string>;
  school_id: number;
  kind: 'whole' | 'take-home' | 'brought';
  /** Of one that was brought: the class that it became. */
  class_id: string | null;
  /** Whose work it is, of a take-home one. */
  student_id: string | null;
  made_by: string;
  made_at: Made<Date>;
  /** Of its file, and of its one folder. */
  name: string;
  /** Pages that are written or read, of how many. */
  total: Made<number>;
  done: Made<number>;
  /** In bytes. */
  size: ColumnType<string, number | undefined, number>;
  finished_at: MaybeInstant;
  /** Why it could not be made or opened. */
  fault: Made<string | null>;
}

interface ArchivePiece {
  archive_id: string;
  n: number;
  bytes: Buffer;
}

interface Grouping {
  id: Made<string>;
  school_id: number;
  class_id: string;
  name: string;
  /** When it was deleted. */
  away_at: MaybeInstant;
}

interface GroupingGroup {
  id: Made<string>;
  school_id: number;
  grouping_id: string;
  name: string;
  place: number;
}

interface GroupMember {
  group_id: string;
  grouping_id: string;
  school_id: number;
  person_id: string;
}

interface RosterChange {
  id: Made<string>;
  school_id: number;
  class_id: string;
  made_by: string;
  made_at: Made<Date>;
  source: string;
  lines: Json<object>;
  undone_at: MaybeInstant;
}

/** Classes: who is in them, their units and groups, and their end. */
export interface ClassTables {
  class: Class;
  class_staff: ClassStaff;
  enrolment: Enrolment;
  join_request: JoinRequest;
  lesson_slot: LessonSlotRow;
  unit: Unit;
  class_build: ClassBuild;
  class_event: ClassEvent;
  archive: Archive;
  archive_piece: ArchivePiece;
  grouping: Grouping;
  grouping_group: GroupingGroup;
  group_member: GroupMember;
  roster_change: RosterChange;
}
