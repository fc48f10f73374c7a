import type { CopyState } from '../copy/state';
import { matchFiles, type Known, type Match } from './match-files';

/** Something that was left out of what was taken apart, and why. */
export interface LeftOut {
  path: string;
  why: string;
}

/** Sheets of a stack that are one student's: numbers of pages, from 1. */
export interface Cut {
  pages: number[];
  student: string | null;
}

/** A file that a teacher collected. Instants in epoch milliseconds. */
export interface Collected {
  id: string;
  /** What it is called, with the folders that it lay in. */
  path: string;
  type: string | null;
  /** In bytes. */
  size: number;
  /** Whose it was said to be; null where its name alone tells. */
  student: string | null;
  /** The copy that it was attached to. */
  copy: string | null;
  /** The copy was handed in with it. */
  handedIn: boolean;
  away: boolean;
  apart: 'begun' | 'done' | null;
  done: number;
  total: number;
  leftOut: readonly LeftOut[];
}

/** A student of the class, and their copy. */
export interface Collectable extends Known {
  /** Null where they have none: it was never made, or was removed. */
  copy: string | null;
  state: CopyState | null;
}

type Standing =
  /** It is one student's, and can be collected. */
  | 'found'
  /** It may be somebody's, or it is nobody's that is known. */
  | 'doubtful'
  /** It is a student's who has no copy. */
  | 'no copy'
  | 'being taken apart'
  | 'taken apart'
  | 'collected'
  | 'put aside';

/** A file with whose it is. */
export interface Sorted extends Collected {
  standing: Standing;
  /** Whose it is, said or told from its name; a guess where it is doubtful. */
  whose: string | null;
  match: Match;
  /** How many files of the same student are found beside it. */
  others: number;
}

/** Sorts what was collected by whose it is. @param title the assignment's */
export function sortCollected(
  files: readonly Collected[],
  students: readonly Collectable[],
  title: string,
): Sorted[] {
  const matches = matchFiles(
    files.map(({ path }) => path),
    students,
    title,
  );
  const known = new Map(students.map((student) => [student.id, student]));
  const sorted = files.map((file, index): Sorted => {
    const match = matches[index] as Match;
    const whose = file.student ?? match.student;
    const isSaid = file.student !== null || match.isSure;
    const standing = (): Standing => {
      if (file.copy !== null) return 'collected';
      if (file.away) return 'put aside';
      if (file.apart !== null) return file.apart === 'done' ? 'taken apart' : 'being taken apart';
      const student = known.get(whose ?? '');
      if (!student || !isSaid) return 'doubtful';
      return student.copy === null ? 'no copy' : 'found';
    };
    return { ...file, match, whose, standing: standing(), others: 0 };
  });
  const counts = new Map<string, number>();
  for (const { standing, whose } of sorted)
    if (standing === 'found' && whose) counts.set(whose, (counts.get(whose) ?? 0) + 1);
  return sorted.map((file) => ({
    ...file,
    others: file.standing === 'found' ? (counts.get(file.whose ?? '') ?? 1) - 1 : 0,
  }));
}
