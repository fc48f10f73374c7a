import type { CodeList } from '$core/formats/code-list';
import type { RosterRead, RosterWay } from '../roster/read-file';

/** A client's steps, made on a page, and what the log took in since. Pages and steps as JSON. */
export interface RebaseTask {
  kind: 'rebase';
  page: object;
  mine: { no: number; step: object; follows?: boolean }[];
  news: { no: number; client: string; step: object }[];
  client: string;
}

/** A document is read as a page. */
export interface DocumentTask {
  kind: 'document';
  name: string;
  bytes: Uint8Array;
  /** The names of pictures that came beside it, by their file names. */
  pictures: [string, string][];
}

/** What a thread is asked to do. */
export type Task =
  | DocumentTask
  | { kind: 'table'; name: string; bytes: Uint8Array }
  | { kind: 'roster'; bytes: Uint8Array; way: RosterWay }
  | { kind: 'codes'; name: string; bytes: Uint8Array }
  /** A PDF document is cut: numbers of pages, from 1, of each piece. */
  | { kind: 'cut'; name: string; bytes: Uint8Array; pieces: number[][] }
  /** A PDF document is opened, to see whether it can be. */
  | { kind: 'pdf'; name: string; bytes: Uint8Array }
  | RebaseTask;

interface DocumentRead {
  /** The page, as JSON. */
  page: object;
  title: string;
  /** What stayed behind, in words. */
  left: string[];
  /** The bytes of the pictures that it carried, which the page names by their hashes. */
  carried: Uint8Array[];
}

export interface Answers {
  document: DocumentRead;
  table: string[][];
  roster: RosterRead;
  codes: CodeList;
  /** The pieces, as PDF documents. */
  cut: Uint8Array[];
  /** How many pages it has. */
  pdf: number;
  /** The steps that have a place, brought up to date; the numbers of those that have none. */
  rebase: { fresh: { no: number; step: object; follows?: boolean }[]; setAside: number[] };
}

/** What the thread says: an answer, or a sentence for the person. */
export type Reply =
  { answer: Answers[Task['kind']] } | { refusal: { status: number; sentence: string } };
