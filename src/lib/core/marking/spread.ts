import Decimal from 'decimal.js';
import { max, mean, median, min, quantile, sampleStandardDeviation } from 'simple-statistics';
import { writePoints } from './points';

/** What the points of a class say together. */
export interface Spread {
  of: number;
  mean: number;
  median: number;
  /** The middle half lies between these. */
  quartiles: readonly [number, number];
  /** The standard deviation of a sample; null of fewer than two. */
  deviation: number | null;
  least: number;
  most: number;
}

/** @returns null of none */
export function spreadOf(points: readonly number[]): Spread | null {
  if (points.length === 0) return null;
  const all = [...points];
  return {
    of: all.length,
    mean: mean(all),
    median: median(all),
    quartiles: [quantile(all, 0.25), quantile(all, 0.75)],
    deviation: all.length > 1 ? sampleStandardDeviation(all) : null,
    least: min(all),
    most: max(all),
  };
}

/** A stretch of points, with what lies in it. */
export interface Bar<T> {
  /** "8 to 9", "10" */
  label: string;
  in: readonly T[];
}

/** So many bars are read at a glance. */
const MOST_BARS = 12;
const WIDTHS = [0.5, 1, 2, 5, 10, 20, 25, 50, 100, 200, 500, 1000];

/**
 * Bars of equal width from nothing to the most that can be had, or was given; the last one takes in its upper end.
 * @param most what the assignment counts for
 */
export function barsOf<T>(
  all: readonly T[],
  pointsOf: (one: T) => string,
  most: string | null,
): Bar<T>[] {
  const top = Decimal.max(most ?? 0, 0, ...all.map(pointsOf));
  if (top.isZero()) return all.length === 0 ? [] : [{ label: '0', in: all }];
  const width =
    WIDTHS.find((one) => top.div(one).lte(MOST_BARS)) ?? top.div(MOST_BARS).ceil().toNumber();
  const count = top.div(width).ceil().toNumber();
  return Array.from({ length: count }, (_, index) => {
    const from = new Decimal(width).times(index);
    const isLast = index === count - 1;
    const to = isLast ? top : from.plus(width);
    return {
      label: `${writePoints(from.toString())} to ${isLast ? '' : 'under '}${writePoints(to.toString())}`,
      in: all.filter((one) => {
        const points = new Decimal(pointsOf(one));
        return points.gte(from) && (points.lt(to) || (isLast && points.lte(to)));
      }),
    };
  });
}
