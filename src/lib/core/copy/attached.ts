/** What was found of something attached: it can be shown or downloaded, it cannot be read, or others cannot open it. */
type Found = 'fine' | 'cannot be read' | 'cannot be opened' | 'not looked at yet';

/** A file or a link that a student attached to a copy. */
export interface Attached {
  id: string;
  kind: 'file' | 'link';
  /** The file's name, or the link's address. */
  name: string;
  /** When it was attached, in epoch milliseconds. */
  at: number;
  found: Found;
}
