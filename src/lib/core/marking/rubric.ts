import { z } from 'zod';
import { totalOf } from './rubric-steps';

const text = (most: number) => z.string().trim().max(most);

/**
 * A scoring table: levels with whole points across, criteria down, a descriptor in each cell. A score may later fall half a
 * step between two neighbouring levels, so levels are kept by their points, in one order.
 */
export const RubricTable = z
  .object({
    /** Whole points of each level, all different. */
    levels: z
      .array(z.number().int('Levels have whole points.').min(0).max(1000))
      .min(1, 'A rubric needs a level.')
      .max(12, 'A rubric has at most 12 levels.'),
    criteria: z
      .array(
        z.object({
          /** Stays when the criterion is renamed or moved. */
          id: z.string().regex(/^[\w-]{1,40}$/),
          title: text(200).min(1, 'Each criterion needs a name.'),
          /** One for each level, in their order. */
          descriptors: z.array(text(2000)),
        }),
      )
      .max(40, 'A rubric has at most 40 criteria.'),
  })
  .refine(({ levels }) => new Set(levels).size === levels.length, {
    message: 'Two levels have the same points.',
  })
  .refine(
    ({ levels, criteria }) =>
      criteria.every(({ descriptors }) => descriptors.length === levels.length),
    { message: 'Each criterion needs a descriptor for each level.' },
  );
export type RubricTable = z.infer<typeof RubricTable>;

/** A kept rubric with its total. @throws z.ZodError when it is none */
export function readRubric(body: unknown): RubricTable & { total: number } {
  const table = RubricTable.parse(body);
  return { ...table, total: totalOf(table) };
}

/** What a new rubric begins with. */
export const emptyRubric = (id: string): RubricTable => ({
  levels: [4, 3, 2, 1],
  criteria: [{ id, title: 'First criterion', descriptors: ['', '', '', ''] }],
});
