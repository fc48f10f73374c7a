import { medianOf } from '../lists/median';
import type { Part } from '../page/parts';
import type { Pace } from './part-pace';

/** How far a copy's parts are, and how its students worked on each. */
export interface WorkedParts {
  parts: readonly Part[];
  /** By the parts' ids. */
  paces: ReadonlyMap<string, Pace>;
}

/** A part that somebody does not get done. */
export interface StuckPart {
  part: Part;
  minutes: number;
  /** How many others in the class needed long for it, too. */
  others: number;
}

/** Of a part on which fewer worked nothing is told. */
const FEWEST = 5;
/** Somebody is stuck who needs three times what half of the others needed, and no less than ten minutes. */
const TIMES = 3;
const LEAST_MINUTES = 10;

/**
 * The part on which somebody is stuck: it is not done, they worked on it for ten minutes at least and three times as long as
 * half of those of the class who worked on it, five at least. Of several the one that took longest; null for none. The
 * measures are ours.
 * @param all the copies of the class, this one among them
 */
export function stuckPart(copy: WorkedParts, all: readonly WorkedParts[]): StuckPart | null {
  const found = copy.parts.flatMap((part): StuckPart[] => {
    const own = copy.paces.get(part.id);
    if (part.done || !own) return [];
    const times = all.flatMap(({ paces }) => paces.get(part.id)?.time ?? []);
    const long = Math.max(LEAST_MINUTES * 60_000, TIMES * medianOf(times));
    if (times.length < FEWEST || own.time < long) return [];
    const others = times.filter((time) => time >= LEAST_MINUTES * 60_000).length - 1;
    return [{ part, minutes: own.time / 60_000, others }];
  });
  return found.sort((a, b) => b.minutes - a.minutes)[0] ?? null;
}
