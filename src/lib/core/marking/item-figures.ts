import { mean, sampleCorrelation } from 'simple-statistics';

/** What the parts of a page tell of a class, as handbooks of testing define it. */
export interface ItemFigures {
  /** The share of its points that was reached, 0 to 1: the facility of the item. */
  facility: number;
  /**
   * The correlation of the item with the rest of the page, −1 to 1 (corrected item–total correlation; where answers are right or
   * wrong, the point-biserial one). Null with fewer than ten copies, without a rest, or where all did alike.
   */
  discrimination: number | null;
  /** Of so many copies. */
  of: number;
}

/** With fewer, a correlation says nothing. */
const FEWEST = 10;

/**
 * @param scores of each copy, item by item, as shares of the item's points from 0 to 1; null for an item that is not in it
 * @returns of each item; null for one that no copy has
 */
export function itemFigures(
  scores: readonly (readonly (number | null)[])[],
): (ItemFigures | null)[] {
  const items = Math.max(0, ...scores.map((row) => row.length));
  return Array.from({ length: items }, (_, item) => {
    const own: number[] = [];
    const rest: number[] = [];
    for (const row of scores) {
      const score = row[item];
      if (score === null || score === undefined) continue;
      own.push(score);
      const others = row.filter((one, index) => index !== item && one !== null);
      if (others.length > 0) rest.push(mean(others.map((one) => one ?? 0)));
    }
    if (own.length === 0) return null;
    return { facility: mean(own), discrimination: correlation(own, rest), of: own.length };
  });
}

function correlation(own: readonly number[], rest: readonly number[]): number | null {
  if (own.length < FEWEST || rest.length < own.length) return null;
  const varies = (some: readonly number[]) => some.some((one) => one !== some[0]);
  return varies(own) && varies(rest) ? sampleCorrelation([...own], [...rest]) : null;
}

/**
 * What a discrimination says, in words. The bounds 0.4, 0.2 and 0 are those that handbooks give for achievement tests (Ebel and
 * Frisbie, Essentials of Educational Measurement; from memory).
 */
export function sayDiscrimination({ discrimination: value, of }: ItemFigures): string {
  if (value === null)
    return of < FEWEST ? 'too few copies to say' : 'nothing to say: all did alike';
  if (value >= 0.4) return 'those who did well on the rest did well here, too';
  if (value >= 0.2) return 'those who did well on the rest did somewhat better here';
  if (value >= 0) return 'doing well on the rest hardly mattered here';
  return 'those who did well on the rest did worse here: look at the question, or its key';
}
