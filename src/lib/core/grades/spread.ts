import { writePoints } from '../marking/points';
import { Decimal } from './exact';

/** How the points of one piece of work are spread. */
export interface Spread {
  /** So many in each tenth of what it counts for; all that is more stands in the last. */
  tenths: number[];
  count: number;
  /** Decimal texts; null where nobody has points. */
  lowest: string | null;
  median: string | null;
  mean: string | null;
  highest: string | null;
}

/** @param points of each who has some @param most what the work counts for */
export function spreadOf(points: readonly string[], most: string): Spread {
  const tenths = Array<number>(10).fill(0);
  const sorted = points.map((one) => new Decimal(one)).sort((a, b) => a.cmp(b));
  for (const one of sorted) {
    const share = new Decimal(most).isZero() ? new Decimal(0) : one.div(most);
    const at = Math.min(9, share.times(10).floor().toNumber());
    tenths[at] = (tenths[at] ?? 0) + 1;
  }
  const [low, high] = [sorted[0], sorted[sorted.length - 1]];
  const middle = [sorted[Math.ceil(sorted.length / 2) - 1], sorted[Math.floor(sorted.length / 2)]];
  const mean = (all: readonly (typeof low)[]) =>
    Decimal.sum(...all.map((one) => one ?? 0))
      .div(all.length)
      .toString();
  return {
    tenths,
    count: sorted.length,
    lowest: low?.toString() ?? null,
    highest: high?.toString() ?? null,
    median: low ? mean(middle) : null,
    mean: low ? mean(sorted) : null,
  };
}

/** "22 have points, from 5½ to 12. Half have 9 or more; the mean is 8.86." */
export function saySpread({ count, lowest, highest, median, mean }: Spread): string {
  if (lowest === null || highest === null || median === null || mean === null)
    return 'Nobody has points yet.';
  const short = (points: string) => writePoints(new Decimal(points).toDecimalPlaces(2).toString());
  if (count === 1) return `One has points: ${short(lowest)}.`;
  return `${count} have points, from ${short(lowest)} to ${short(highest)}. Half have ${short(median)} or more; the mean is ${short(mean)}.`;
}
