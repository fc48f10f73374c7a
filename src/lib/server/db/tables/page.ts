import type { InFolio } from '$core/copy/folio';
import type { Keys } from '$core/marking/key-changes';
import type { ColumnType, Generated } from 'kysely';
import type { EventKind } from '$core/copy/reduce';
import type { Level } from '$core/headcount/level';
import type { Delivery } from '$core/handout/spec';
import type { Made, Json, Instant, MaybeInstant } from './columns';

/** Where a page of a class lies. */
export type Area = 'shelf' | 'worktable' | 'cupboard' | 'welcome';

export interface Page {
  id: Made<string>;
  school_id: number;
  kind: 'original' | 'reading' | 'copy' | 'class page' | 'own page';
  title: string;
  /** Of an original and of a reading. */
  course_id: string | null;
  /** Where it stands in its course or class. */
  unit_id: string | null;
  place: Made<number>;
  /** Of a class page: who sees it. */
  area: Area | null;
  /** The page it was copied or carried over from, and in which version. Of an adapted original: what it adapts. */
  from_id: string | null;
  from_version: number | null;
  adapted: Made<boolean>;
  /** Of an adapted original: the keys of what it adapts, when it was last settled. */
  base_keys: ColumnType<Keys | null, string | null | undefined, string | null>;
  /** The building of a class that brought it. */
  build_id: string | null;
  /** Removed from its course or class, or withdrawn from its students; it can be brought back. */
  away_at: MaybeInstant;
  /** Of a copy: its students were given something else, and only read it now. */
  replaced_at: MaybeInstant;
  /** What it is in its student's folio; null where it is not in it. */
  folio: Made<InFolio | null>;
  /** Of a copy: the assignment's original that it stands for, and how it reaches its students. */
  for_id: string | null;
  delivery: Delivery | null;
  /** Of a copy that several share: its group's name, or empty for the whole class. */
  group_name: string | null;
  /** Of a copy: what it was made from, and in which version. */
  source_id: string | null;
  source_version: number | null;
  assignment_id: string | null;
  class_id: string | null;
  student_id: string | null;
  guarded: Made<boolean>;
  /** How many steps the log holds. */
  version: Made<number>;
  /** Of a page of a class: the version in which it came into students' sight. What was before is the staff's. */
  seen_from: Made<number>;
  /** The course that it was moved out of, to which it can be brought back. */
  moved_from: Made<string | null>;
  /** Kept for speed, and null until the first step: which parts are done ("101"), and how many words. */
  done_mask: Made<string | null>;
  words: Made<number | null>;
  /** Kept for speed, of a copy: how much is written on it, and what went at once. */
  level: ColumnType<Level | null, string | null | undefined, string | null>;
  /** Kept for speed: the student's own last step. */
  written_at: MaybeInstant;
  /** Kept for speed: handed in, and neither taken back nor handed back since. */
  with_teacher: Made<boolean>;
  /** Its class is archived: whoever locks it to write is refused. */
  sealed: Made<boolean>;
  /** Kept for speed: how many threads are tied to it. */
  threads: Made<number>;
  made_at: Made<Date>;
}

/** Work that was moved to the copy that it belongs to, and what its page was before. */
interface MovedWork {
  id: Made<string>;
  school_id: number;
  page_id: string;
  /** The copy whose place it took. */
  blank_id: string;
  /** Whether the page is a clone, whose own stays where it was. */
  cloned: boolean;
  was: Json<object>;
  made_by: string;
  at: Made<Date>;
  undone_at: MaybeInstant;
}

interface PageMember {
  page_id: string;
  person_id: string;
  school_id: number;
}

interface StepRow {
  page_id: string;
  version: number;
  school_id: number;
  author_id: string;
  at: Instant;
  client: string;
  client_no: number;
  body: Json<object>;
}

/** The steps of a page from version `first` to `last`, in one row. */
interface StepPack {
  page_id: string;
  first: number;
  last: number;
  school_id: number;
  /** Client, author, and the highest number of its own. */
  writers: Json<[string, string, number][]>;
  /** The place in `writers`, the client's number, microseconds since 1970, and the body. */
  steps: Json<[number, number, number, object][]>;
}

/** An unbroken stretch of work by one person on one page, as `core/history/sittings` has it. */
interface Sitting {
  page_id: string;
  person_id: string;
  /** The first and the last version made in it. */
  first: number;
  last: number;
  school_id: number;
  begun_at: Date;
  ended_at: Date;
  steps: number;
}

/** From when to when something was gone that came back. */
interface Absence {
  kind: AbsenceKind;
  of_id: string;
  /** The class, of what is in one; else the thing again. */
  in_id: string;
  school_id: number;
  from_at: Date;
  to_at: Date;
}

export type AbsenceKind = 'removed' | 'replaced' | 'withdrawn' | 'left';

interface SetAside {
  page_id: string;
  client: string;
  client_no: number;
  school_id: number;
  author_id: string;
  at: Instant;
  /** The version whose place it was made for. */
  base_version: number;
  body: Json<object>;
  words: string;
}

interface SetAsideSettled {
  page_id: string;
  client: string;
  client_no: number;
  school_id: number;
  at: Made<Date>;
}

interface Snapshot {
  page_id: string;
  version: number;
  school_id: number;
  at: Instant;
  doc: Json<object>;
  authorship: Json<object>;
  parts: Json<object>;
}

interface AnswerKeyRow {
  page_id: string;
  part_id: string;
  school_id: number;
  body: Json<object>;
}

interface AnswerApart {
  page_id: string;
  part_id: string;
  school_id: number;
}

interface Event {
  id: Generated<string>;
  school_id: number;
  page_id: string;
  person_id: string;
  at: Made<Date>;
  kind: EventKind;
  version: number;
  /** The version that was put back. */
  of_version: Made<number | null>;
  /** The score that a copy was handed back with. */
  score_id: Made<string | null>;
  note: Made<string>;
}

interface File {
  hash: string;
  school_id: number;
  type: string;
  bytes: Buffer;
  made_by: string;
  made_at: Made<Date>;
}

/** A page that shows a picture, or did. */
interface PicturePlace {
  hash: string;
  page_id: string;
  school_id: number;
}

interface PictureSender {
  hash: string;
  person_id: string;
  school_id: number;
}

/** Written by triggers and by the indexer; read by `find`. */
interface FindEntry {
  kind: 'page' | 'note' | 'person' | 'assignment' | 'comment' | 'rubric' | 'code';
  id: string;
  school_id: number;
  class_id: string | null;
  course_id: string | null;
  /** The student whose copy it is. */
  owner_id: string | null;
  title: string;
  body: string;
  page_version: Made<number>;
}

/** Pages: their log, what is kept for speed, and what became of them. */
export interface PageTables {
  page: Page;
  moved_work: MovedWork;
  page_member: PageMember;
  step: StepRow;
  step_pack: StepPack;
  sitting: Sitting;
  absence: Absence;
  set_aside: SetAside;
  set_aside_settled: SetAsideSettled;
  snapshot: Snapshot;
  answer_key: AnswerKeyRow;
  answer_apart: AnswerApart;
  event: Event;
  file: File;
  picture_place: PicturePlace;
  picture_sender: PictureSender;
  find_entry: FindEntry;
}
