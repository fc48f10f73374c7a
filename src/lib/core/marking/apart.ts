import { isScoredNow, type CopyFacts } from '../copy/state';

/**
 * Whether two people mark a copy apart: neither sees what the other gives until both have, and what they give counts once it is
 * settled.
 */
export const isMarkedApart = (markers: readonly unknown[], facts: CopyFacts): boolean =>
  markers.length > 1 && !isScoredNow(facts);
