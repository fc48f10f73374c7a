import type { Pieces } from '../attached/store-file';

/** A part of a file that is taken apart. */
export interface PartOfFile {
  path: string;
  bytes: Pieces;
  /** Whose it is, where that is known. */
  student: string | null;
}
