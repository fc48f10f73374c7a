import type { PartsSum } from './sum-parts';

/** A copy that comes to something else when it is checked anew. */
export interface CheckChange {
  copy: string;
  /** The class's name. */
  class: string;
  /** "Ada Fennick", or all who share it. */
  names: string[];
  /** What it came to; null for one that was not checked yet. */
  was: PartsSum | null;
  now: PartsSum;
  /** Its student has the old points. */
  isBack: boolean;
}
