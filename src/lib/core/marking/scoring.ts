import Decimal from 'decimal.js';
import { z } from 'zod';
import { RubricTable, totalOf } from './rubric';

/** Points as they are kept: a decimal text with at most two places, the shortest for its number. */
export const PointsText = z
  .string()
  .regex(/^\d{1,6}(\.\d{1,2})?$/, 'Points are a number such as 6, 6½ or 6.5.')
  .transform((text) => new Decimal(text).toString());

/** What somebody scores a copy with: for each criterion a step of the rubric, or none yet, and words. */
export const ScoringSpec = z.object({
  criteria: z
    .array(
      z.object({
        id: z.string().max(40),
        points: PointsText.nullable(),
        words: z.string().trim().max(2000, 'Words on a criterion have at most 2000 characters.'),
      }),
    )
    .max(40),
  /** Points that count instead of what the rubric comes to, and why. */
  overruled: z
    .object({
      points: PointsText,
      reason: z
        .string()
        .trim()
        .min(1, 'Please say why other points count than the rubric’s.')
        .max(1000, 'The reason has at most 1000 characters.'),
    })
    .nullable(),
});
export type ScoringSpec = z.infer<typeof ScoringSpec>;

/** One scoring of a copy, with the rubric as it was then. */
export const Scoring = ScoringSpec.extend({
  rubric: z.object({
    id: z.uuid(),
    title: z.string(),
    version: z.number().int(),
    table: RubricTable,
  }),
});
export type Scoring = z.infer<typeof Scoring>;

/** A place on a rubric's scale. */
export interface RubricStep {
  /** Decimal text: a level's points, or the mean of two neighbouring levels' points. */
  points: string;
  /** Which levels of the table it means: one, or the two that a half step lies between. */
  levels: readonly number[];
}

/** All levels and the half steps between neighbours, from the fewest points to the most. */
export function stepsOf({ levels }: Pick<RubricTable, 'levels'>): RubricStep[] {
  const order = levels.map((_, index) => index).sort((a, b) => pointsAt(a) - pointsAt(b));
  function pointsAt(index: number): number {
    return levels[index] ?? 0;
  }
  return order.flatMap((index, at) => {
    const level = { points: `${pointsAt(index)}`, levels: [index] };
    const above = order[at + 1];
    if (above === undefined) return [level];
    const mean = new Decimal(pointsAt(index)).plus(pointsAt(above)).div(2);
    return [level, { points: mean.toString(), levels: [index, above] }];
  });
}

/** What a scoring comes to. Points are decimal texts. */
export interface RubricSum {
  /** Of the criteria that are scored. */
  points: string;
  /** What the whole rubric can give. */
  most: string;
  /** How many criteria are not scored yet. */
  left: number;
}

export function sumOf(table: RubricTable, criteria: ScoringSpec['criteria']): RubricSum {
  const given = table.criteria.flatMap(({ id }) => {
    const points = criteria.find((one) => one.id === id)?.points ?? null;
    return points === null ? [] : [points];
  });
  return {
    points: given.reduce((sum, one) => sum.plus(one), new Decimal(0)).toString(),
    most: `${totalOf(table)}`,
    left: table.criteria.length - given.length,
  };
}

/**
 * Why a rubric cannot be scored so, in a sentence; null when it can. Points are steps of its scale, and criteria its own,
 * each once.
 */
export function scoringFault(table: RubricTable, { criteria }: ScoringSpec): string | null {
  const scale = stepsOf(table);
  const known = new Set(table.criteria.map(({ id }) => id));
  if (new Set(criteria.map(({ id }) => id)).size < criteria.length)
    return 'A criterion is scored twice.';
  for (const { id, points } of criteria) {
    if (!known.has(id)) return 'The rubric has no such criterion any more. Please look again.';
    if (points !== null && !scale.some((step) => new Decimal(step.points).eq(points)))
      return 'A criterion gets a level’s points, or those half-way between two neighbouring levels.';
  }
  return null;
}

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
