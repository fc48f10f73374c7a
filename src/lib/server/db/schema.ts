import type { Found } from '$core/attached/attached';
import type { InFolio } from '$core/copy/folio';
import type { Keys } from '$core/marking/key-changes';
import type { Cut, LeftOut } from '$core/collecting/collected';
import type { ColumnType, Generated, Selectable } from 'kysely';
import type { MessageFact } from '$core/messages/message';
import type { EventKind } from '$core/copy/reduce';
import type { Counting } from '$core/grades/grade-line';
import type { Level } from '$core/headcount/level';
import type { Delivery, HandOutSpec } from '$core/handout/spec';
import type { ProposalKind } from '$core/proposals/proposal';

/** Filled by the database when a row is made. */
type Made<T> = ColumnType<T, T | undefined, T>;
/** Kept exactly as given; read back as it was. */
type Json<T> = ColumnType<T, string, string>;
type Instant = ColumnType<Date, Date | string, Date | string>;
type MaybeInstant = ColumnType<Date | null, Date | string | null | undefined, Date | string | null>;
/** numeric(8,2): a decimal text, never a binary float. */
type Points = ColumnType<string | null, string | null | undefined, string | null>;

interface School {
  id: Generated<number>;
  name: string;
  time_zone: string;
  /** No e-mail goes out between these times of the school's clock: "19:00". */
  quiet_from: Made<string>;
  quiet_to: Made<string>;
}
interface Term {
  id: Made<string>;
  school_id: number;
  name: string;
  starts: string;
  ends: string;
}
interface Holiday {
  id: Made<string>;
  school_id: number;
  name: string;
  starts: string;
  ends: string;
}
interface Person {
  id: Made<string>;
  school_id: number;
  role: 'teacher' | 'student' | 'office';
  given: string;
  family: string;
  /** How students address them: "Ms Orrey"; empty for students. */
  called: string;
  sign_in_name: string;
  password_hash: string;
  demo: Made<boolean>;
  email: Made<string>;
  /** Nobody signs in to it any more. */
  disabled_at: MaybeInstant;
  /** The teacher who made the account, and so may give its first password. */
  made_by: Made<string | null>;
  /** Seals what the person leaves in a browser: 32 bytes as hexadecimal digits. */
  seal: Made<string>;
  /** How what is told comes by e-mail, too. */
  mails: Made<'gathered' | 'daily' | 'never'>;
  /** Whether one of the staff is told of work that is handed in. */
  hears_hand_ins: Made<boolean>;
  /** A process that writes to them now, or was killed while it did. */
  mail_claimed_at: MaybeInstant;
  mail_failures: Made<number>;
  /** What the mail server said last, when it refused. */
  mail_fault: Made<string>;
  /** Of an opened archive: somebody whom the school does not know, and who never signs in. */
  name_only: Made<boolean>;
}
interface Session {
  id: string;
  school_id: number;
  person_id: string;
  made_at: Made<Date>;
  /** When something was asked for in it last. */
  last_at: Made<Date>;
  /** What browser it is in, as its person may know it. */
  browser: Made<string>;
  expires_at: Instant;
}
/** A browser in which a person has signed in: others' wrong passwords do not lock it out. */
interface KnownBrowser {
  hash: string;
  person_id: string;
  school_id: number;
  made_at: Made<Date>;
}
interface RateLimit {
  key: string;
  points: number;
  expire: string | null;
}
/** A link to a new password, sent by e-mail. */
interface PasswordLink {
  hash: string;
  person_id: string;
  school_id: number;
  made_at: Made<Date>;
  used_at: MaybeInstant;
}
/** A line of somebody's desk that they put off. */
interface PutOff {
  person_id: string;
  school_id: number;
  /** As `lineKey` says. */
  line: string;
  until_at: Instant;
}
interface SetUpLink {
  hash: string;
  school_id: number;
  made_at: Made<Date>;
  used_at: MaybeInstant;
}
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
/** The closing of a class's term, and its opening again. */
interface ClassEvent {
  id: Generated<string>;
  school_id: number;
  class_id: string;
  person_id: string;
  at: Made<Date>;
  kind: 'archived' | 'opened again';
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
/** Where a page of a class lies. */
export type Area = 'shelf' | 'worktable' | 'cupboard' | 'welcome';
interface Page {
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
}
/** That somebody used a phrase. */
interface PhraseUse {
  id: Generated<string>;
  phrase_id: string;
  person_id: string;
  at: Made<Date>;
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
interface File {
  hash: string;
  school_id: number;
  type: string;
  bytes: Buffer;
  made_by: string;
  made_at: Made<Date>;
}

/** A file that somebody sends in pieces: for a copy, or collected for an assignment of a class. */
interface UploadRow {
  id: Made<string>;
  school_id: number;
  person_id: string;
  page_id: Made<string | null>;
  assignment_id: Made<string | null>;
  class_id: Made<string | null>;
  name: string;
  /** In bytes, and how many of them are here. */
  size: ColumnType<string, number, number>;
  received: ColumnType<string, number | undefined, number>;
  made_at: Made<Date>;
  finished_at: MaybeInstant;
  /** Its media type, told from its bytes; null where they tell none. */
  type: Made<string | null>;
}
interface UploadPiece {
  upload_id: string;
  /** Where in the file it begins. */
  starts: ColumnType<string, number, number>;
  bytes: Buffer;
}
/** What is attached to a copy: a file or a link. */
interface Attachment {
  id: Made<string>;
  school_id: number;
  page_id: string;
  upload_id: string | null;
  url: Made<string | null>;
  made_by: string;
  at: Made<Date>;
  /** When its student removed it, or its teacher took it off. */
  away_at: MaybeInstant;
  /** Its teacher had collected it for the wrong copy, perhaps: nobody sees it there any more. */
  undone: Made<boolean>;
  found: Found;
  /** Of a document: how it looks as a page, and what of it stayed behind. */
  shown: ColumnType<object | null, string | null | undefined, string | null>;
}
/** A file that a teacher collected for an assignment of a class. */
interface Collected {
  id: Made<string>;
  school_id: number;
  assignment_id: string;
  class_id: string;
  upload_id: string;
  /** What it is called, with the folders that it lay in. */
  path: string;
  /** Its media type, told from its bytes; null where they tell none. */
  type: string | null;
  /** What it was taken out of, and which of that it is. */
  from_id: Made<string | null>;
  place: Made<number>;
  made_by: string;
  at: Made<Date>;
  /** Whose it was said to be. */
  student_id: Made<string | null>;
  /** Where it went, and whether the copy was handed in with that. */
  attachment_id: Made<string | null>;
  handed_in: Made<boolean>;
  away_at: MaybeInstant;
  /** It holds others, which are taken out of it. */
  apart: Made<'begun' | 'done' | null>;
  /** How many of them are out. */
  done: Made<number>;
  total: Made<number>;
  /** What of it was left out, and why. */
  left_out: ColumnType<LeftOut[], string | undefined, string>;
  /** Of a stack of sheets: which are whose. */
  cuts: ColumnType<Cut[] | null, string | undefined, string | null>;
}

/** What stood behind a link when it was handed in. */
interface LinkSnapshot {
  id: Made<string>;
  school_id: number;
  attachment_id: string;
  upload_id: string;
  shown: ColumnType<object | null, string | null | undefined, string | null>;
  at: Made<Date>;
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
/** A change of what a page adapts that is to stay as it is there. */
interface AdaptedLeft {
  page_id: string;
  school_id: number;
  /** Names the change. */
  key: string;
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
interface Message {
  id: Made<string>;
  school_id: number;
  person_id: string;
  at: Made<Date>;
  fact: Json<MessageFact>;
  link: string;
  read_at: MaybeInstant;
  /** When it went out by e-mail, or was found not to. */
  mailed_at: MaybeInstant;
  /** What it tells of: nobody is told of the same thing twice. */
  cause: string;
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
interface OfficeMap {
  school_id: number;
  kind: 'class' | 'person';
  sourced_id: string;
  class_id: string | null;
  person_id: string | null;
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
interface CalendarFeed {
  person_id: string;
  school_id: number;
  secret: string;
  made_at: Made<Date>;
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

/** Every table carries its school, so that schools can be spread over machines. */
export interface Tables {
  school: School;
  term: Term;
  holiday: Holiday;
  person: Person;
  session: Session;
  known_browser: KnownBrowser;
  rate_limit: RateLimit;
  password_link: PasswordLink;
  set_up_link: SetUpLink;
  course: Course;
  course_staff: CourseStaff;
  class: Class;
  class_staff: ClassStaff;
  enrolment: Enrolment;
  join_request: JoinRequest;
  lesson_slot: LessonSlotRow;
  unit: Unit;
  assignment: Assignment;
  assignment_class: AssignmentClass;
  assignment_original: AssignmentOriginal;
  page: Page;
  page_member: PageMember;
  moved_work: MovedWork;
  step: StepRow;
  step_pack: StepPack;
  sitting: Sitting;
  absence: Absence;
  set_aside: SetAside;
  set_aside_settled: SetAsideSettled;
  snapshot: Snapshot;
  answer_key: AnswerKeyRow;
  event: Event;
  score: Score;
  thread: Thread;
  comment: Comment;
  proposal: ProposalRow;
  phrase: PhraseRow;
  phrase_use: PhraseUse;
  proposal_decision: ProposalDecisionRow;
  file: File;
  upload: UploadRow;
  upload_piece: UploadPiece;
  attachment: Attachment;
  link_snapshot: LinkSnapshot;
  collected: Collected;
  picture_place: PicturePlace;
  picture_sender: PictureSender;
  archive: Archive;
  archive_piece: ArchivePiece;
  class_build: ClassBuild;
  class_event: ClassEvent;
  rubric: Rubric;
  rubric_change: RubricChange;
  adapted_left: AdaptedLeft;
  note: Note;
  message: Message;
  grouping: Grouping;
  grouping_group: GroupingGroup;
  group_member: GroupMember;
  roster_change: RosterChange;
  office_map: OfficeMap;
  put_off: PutOff;
  find_entry: FindEntry;
  code_set: CodeSet;
  code: Code;
  code_tag: CodeTag;
  hand_out: HandOutRow;
  assignment_change: AssignmentChange;
  allowance: Allowance;
  calendar_feed: CalendarFeed;
}

export type PageRow = Selectable<Page>;
