import type { CodeList } from '$core/formats/code-list';
import type { RosterRead, RosterWay } from '../roster/read-file';

/** What the thread that reads files is asked to do. */
export type ReaderTask =
  | {
      kind: 'document';
      name: string;
      bytes: Uint8Array;
      /** The names of pictures that came beside it, by their file names. */
      pictures: [string, string][];
    }
  | { kind: 'table'; name: string; bytes: Uint8Array }
  | { kind: 'roster'; bytes: Uint8Array; way: RosterWay }
  | { kind: 'codes'; name: string; bytes: Uint8Array };

interface DocumentRead {
  /** The page, as JSON. */
  page: object;
  title: string;
  /** What stayed behind, in words. */
  left: string[];
  /** The bytes of the pictures that it carried, which the page names by their hashes. */
  carried: Uint8Array[];
}

export interface ReaderAnswers {
  document: DocumentRead;
  table: string[][];
  roster: RosterRead;
  codes: CodeList;
}

/** What the thread says: an answer, or a sentence for the person. */
export type ReaderReply =
  { answer: ReaderAnswers[ReaderTask['kind']] } | { refusal: { status: number; sentence: string } };
