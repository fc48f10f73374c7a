import type { Loss } from '../headcount/level';
import type { StepNews } from '../page/protocol';
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

/** What was written on a page after version `base`. */
export interface NewSteps {
  base: number;
  steps: StepNews[];
}

/** Somebody wrote in a page. */
export interface WrittenNews {
  kind: 'written';
  page: string;
  version: number;
  /** Null for a page that is no copy. */
  copy: Written | null;
  /** What was written, of a page that several share; null for ask for it. */
  steps: NewSteps | null;
}

/** Two after one another about one page, as one. */
export function writtenOn(earlier: WrittenNews, later: WrittenNews): WrittenNews {
  const [a, b] = [earlier.steps, later.steps];
  const goesOn = a && b && a.base + a.steps.length === b.base;
  return { ...later, steps: goesOn ? { base: a.base, steps: [...a.steps, ...b.steps] } : null };
}

/** What is new: which row changed, and how. */
export type News =
  | WrittenNews
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
