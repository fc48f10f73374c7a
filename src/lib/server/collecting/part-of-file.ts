/** A part of a file that is taken apart. */
export interface PartOfFile {
  path: string;
  bytes: AsyncIterable<Buffer>;
  /** Whose it is, where that is known. */
  student: string | null;
}
