import type { Loss } from '../headcount/level';
import type { CopyRow } from '../copy/copy-row';

/** What writing changes of a copy in lists. */
interface Written {
  mask: string;
  words: number;
  /** Its students' own last step, epoch milliseconds. */
  at: number | null;
  /** What went of it at once. */
  loss: Loss | null;
}

/** What is new: which row changed, and how. */
export type News =
  /** Somebody wrote in a page. `copy`: null for a page that is no copy. */
  | { kind: 'written'; page: string; version: number; copy: Written | null }
  /** A copy was opened, handed in, looked at, scored, … by somebody: how it stands now. */
  | { kind: 'copy'; page: string; version: number; by: string; row: CopyRow }
  /** Something was said in the margin of a page. */
  | { kind: 'threads'; page: string; version: number }
  /** Who may write in a page that several share has it open, or has left it. */
  | {
      kind: 'here';
      page: string;
      person: string;
      name: string;
      here: boolean;
      /** The editor that says so, as its steps are named. */
      client: string;
      /** Where its cursor is in a version of the page; null where that is not known. */
      cursor: { at: number; version: number } | null;
    }
  /** More of a class changed than rows can say: its views read it again. */
  | { kind: 'class'; class: string };

/** What a browser hears: news, or that it may have missed some. */
export type Heard = readonly News[] | 'resync';
