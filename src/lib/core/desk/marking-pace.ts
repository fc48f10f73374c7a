import { medianOf } from '../lists/median';

/** A scoring of a copy by the person whose pace is asked for. */
interface Scoring {
  copy: string;
  /** Epoch milliseconds. */
  at: number;
}

/** A longer time between two copies is a pause: 20 minutes, in milliseconds. */
const PAUSE = 20 * 60_000;
/** Of fewer copies after one another nothing is told. */
const FEWEST = 5;
/** So many of the last ones say how somebody marks now. */
const LAST = 50;

/**
 * How long somebody needs to mark a copy, in milliseconds: half of their last copies took less. A copy takes from the last
 * scoring of the one before to its own last one; what comes after a pause is left out. The measure is ours.
 * @param scorings in the order in which they were given
 * @returns null where too little is known
 */
export function markingPace(scorings: readonly Scoring[]): number | null {
  const lastOfCopy = scorings.filter(({ copy }, i) => copy !== scorings[i + 1]?.copy);
  const took = lastOfCopy
    .slice(1)
    .map(({ at }, i) => at - (lastOfCopy[i]?.at ?? at))
    .filter((time) => time > 0 && time <= PAUSE)
    .slice(-LAST);
  return took.length < FEWEST ? null : medianOf(took);
}

/** So many copies at a pace: "about 35 min", rounded to five minutes, or to one where it is less. */
export function sayMarkingTime(copies: number, pace: number): string {
  const minutes = (copies * pace) / 60_000;
  if (minutes < 5) return `about ${Math.max(1, Math.round(minutes))} min`;
  const rounded = Math.round(minutes / 5) * 5;
  const hours = Math.floor(rounded / 60);
  const rest = rounded % 60;
  const parts = [hours > 0 ? `${hours} h` : '', rest > 0 ? `${rest} min` : ''];
  return `about ${parts.filter(Boolean).join(' ')}`;
}
