import Decimal from 'decimal.js';
import { z } from 'zod';
import { PointsText } from './points-text';
import { RubricTable } from './rubric';
import { stepsOf } from './rubric-steps';

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
