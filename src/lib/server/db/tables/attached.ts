import type { Found } from '$core/attached/attached';
import type { Cut, LeftOut } from '$core/collecting/collected';
import type { ColumnType } from 'kysely';
import type { Made, MaybeInstant } from './columns';

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
  /** It goes with a comment. */
  said: Made<boolean>;
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

/** What stood behind a link when it was handed in. */
interface LinkSnapshot {
  id: Made<string>;
  school_id: number;
  attachment_id: string;
  upload_id: string;
  shown: ColumnType<object | null, string | null | undefined, string | null>;
  at: Made<Date>;
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

/** Files and links, and what is collected. */
export interface AttachedTables {
  upload: UploadRow;
  upload_piece: UploadPiece;
  attachment: Attachment;
  link_snapshot: LinkSnapshot;
  collected: Collected;
}
