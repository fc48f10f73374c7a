import { z } from 'zod';

/** A share of a hundred, or a weight: a decimal text with at most two places. */
const percent = z
  .string()
  .regex(/^\d{1,4}(\.\d{1,2})?$/, 'Weights are numbers such as 40 or 33.3.');

/** How a class counts: what its points come to. */
export const GradeRules = z.object({
  /** No total; all points together; or categories, each with a weight. */
  total: z.enum(['none', 'points', 'weights']),
  /** What was not handed in by its due time stays empty, or counts as zero. */
  missing: z.enum(['empty', 'zero']),
  /** How many places are shown. Nothing is rounded before. */
  places: z.number().int().min(0).max(2),
  categories: z
    .array(
      z.object({
        name: z.string().trim().min(1, 'Each category needs a name.').max(100),
        weight: percent,
        /** How many of the lowest shares do not count. */
        drop: z.number().int().min(0).max(20),
      }),
    )
    .max(20, 'There are at most 20 categories.')
    .refine((all) => new Set(all.map(({ name }) => name)).size === all.length, {
      message: 'Two categories have the same name.',
    }),
  /** The school's own grades, each from so many of a hundred on. Empty for none. */
  scale: z
    .array(
      z.object({
        from: percent,
        grade: z.string().trim().min(1, 'Each grade needs a name.').max(20),
      }),
    )
    .max(30, 'A scale has at most 30 grades.'),
});
export type GradeRules = z.infer<typeof GradeRules>;

/** What a class begins with: points, and no total. */
export const PLAIN_RULES: GradeRules = {
  total: 'none',
  missing: 'empty',
  places: 1,
  categories: [],
  scale: [],
};
