import type { Spot } from '../attached/spot';
import type { Anchor } from '../history/anchor';

export interface CommentView {
  id: string;
  kind: 'said' | 'settled' | 'opened again';
  text: string;
  by: string;
  /** Whether the person who asks wrote it. */
  own: boolean;
  /** Epoch milliseconds. */
  at: number;
}

export interface ThreadView {
  id: string;
  quote: string;
  /** At the page's version of the same answer; null for a thread on the whole copy. */
  anchor: Anchor | null;
  /** The place on something attached that it is tied to; null for one on the page. */
  on: { attachment: string; name: string; spot: Spot } | null;
  settled: boolean;
  comments: CommentView[];
}

export interface Threads {
  version: number;
  threads: ThreadView[];
}
