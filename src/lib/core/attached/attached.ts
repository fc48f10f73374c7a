/** What was found of something attached: it can be shown or downloaded, it cannot be read, or others cannot open it. */
export const FOUND = ['fine', 'cannot be read', 'cannot be opened', 'not looked at yet'] as const;
export type Found = (typeof FOUND)[number];

/** A file or a link that a student attached to a copy. */
export interface Attached {
  id: string;
  kind: 'file' | 'link';
  /** The file's name, or the link's address. */
  name: string;
  /** Of a file: its media type, told from its bytes; null where they tell none. */
  type: string | null;
  /** In bytes; 0 of a link. */
  size: number;
  /** When it was attached, in epoch milliseconds. */
  at: number;
  found: Found;
  /** It is a document that is shown as a page. */
  isPage: boolean;
  /** Of a link: what stood there when it was handed in last. */
  kept: Kept | null;
}

/** What stood behind a link. */
interface Kept {
  /** In epoch milliseconds. */
  at: number;
  type: string | null;
  isPage: boolean;
}

/** When something was attached last; null where nothing is. */
export const attachedLast = (attached: readonly Attached[]): number | null =>
  attached.length === 0 ? null : Math.max(...attached.map(({ at }) => at));

/** The parts of a page with what is attached to it, which is one part more, and done. */
export const wholeMask = (page: string, attached: readonly Attached[]): string =>
  attached.length > 0 ? `${page}1` : page;
