/** How fast a history is played: so many times as fast as it was written. */
export const SPEEDS = [1, 5, 20, 60] as const;

/** A longer pause, as it is played, is cut to this: who looks on need not wait. In milliseconds. */
const LONGEST_PAUSE = 1500;
/** Steps that follow each other faster than this, as they are played, are shown as one. In milliseconds. */
const FRAME = 40;

/**
 * What is shown next of a history that is played.
 * @param times when each version was made, in epoch milliseconds: the first is the one that is shown now
 * @returns how many versions further it goes, and after how many milliseconds; no further at the end
 */
export function nextFrame(
  times: readonly number[],
  speed: number,
): { versions: number; wait: number } {
  let [versions, wait] = [0, 0];
  for (const [index, at] of times.slice(1).entries()) {
    const pause = Math.min(Math.max(0, at - (times[index] ?? at)) / speed, LONGEST_PAUSE);
    if (versions > 0 && wait + pause > FRAME) break;
    versions += 1;
    wait += pause;
  }
  return { versions, wait };
}
