import Decimal from 'decimal.js';

/** The points of a score as it is kept: typed or overruled ones, or what a whole rubric came to, of the most it can give. */
export interface KeptScore {
  points: string | null;
  rubric: { points: string; most: string } | null;
}

/**
 * The points that a score gives an assignment; null for none. A rubric's share is carried where the assignment counts for
 * other points than its rubric: 25 of 50 becomes 5 of 10. Rounded half up to two places, as points are kept.
 * @param most what the assignment counts for; null where it counts no points
 */
export function pointsOf({ points, rubric }: KeptScore, most: string | null): string | null {
  if (points !== null) return points;
  if (rubric === null || most === null) return null;
  if (new Decimal(rubric.most).isZero()) return '0';
  return new Decimal(rubric.points)
    .times(most)
    .div(rubric.most)
    .toDecimalPlaces(2, Decimal.ROUND_HALF_UP)
    .toString();
}

/** Whether one score of a copy was given after another. @param score an id; null for none yet */
export const isLaterScore = (score: string | null, than: string | null): boolean =>
  Number(score) > Number(than);
