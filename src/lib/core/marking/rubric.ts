import { z } from 'zod';
import { totalOf } from './rubric-steps';

const text = (most: number, says: string) =>
  z.string().trim().max(most, `${says} at most ${most} characters.`);
const WHOLE = 'Each level has whole points, from 0 to 1000.';

/**
 * A scoring table: levels with whole points across, criteria down, a descriptor in each cell. A score may later fall half a
 * step between two neighbouring levels, so levels are kept by their points, in one order.
 */
export const RubricTable = z
  .object({
    /** Whole points of each level, all different. */
    levels: z
      .array(z.number({ error: WHOLE }).int(WHOLE).min(0, WHOLE).max(1000, WHOLE))
      .min(1, 'A rubric needs a level.')
      .max(12, 'A rubric has at most 12 levels.'),
    criteria: z
      .array(
        z.object({
          /** Stays when the criterion is renamed or moved. */
          id: z.string().regex(/^[\w-]{1,40}$/),
          title: text(200, 'The name of a criterion has').min(1, 'Each criterion needs a name.'),
          /** One for each level, in their order. */
          descriptors: z.array(text(2000, 'A descriptor has')),
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
type Criterion = RubricTable['criteria'][number];

/** A kept rubric with its total. @throws z.ZodError when it is none */
export function readRubric(body: unknown): RubricTable & { total: number } {
  const table = RubricTable.parse(body);
  return { ...table, total: totalOf(table) };
}

/**
 * A rubric that was read anew keeps the criteria that are known already: those of the same name, and what is left, those
 * that say the same under another name. What hangs on a criterion, such as its codes, stays with it.
 */
export function keepCriteria(read: RubricTable, known: RubricTable): RubricTable {
  const left = [...known.criteria];
  const take = (fits: (one: Criterion) => boolean) => {
    const at = left.findIndex(fits);
    return at < 0 ? null : (left.splice(at, 1)[0]?.id ?? null);
  };
  const named = read.criteria.map(({ title }) => take((one) => one.title === title));
  const criteria = read.criteria.map((criterion, index) => {
    const says = criterion.descriptors.join('\n');
    const id =
      named[index] ??
      (says.trim() === '' ? null : take((one) => one.descriptors.join('\n') === says));
    return { ...criterion, id: id ?? criterion.id };
  });
  return { ...read, criteria };
}

/** What a new rubric begins with. */
export const emptyRubric = (id: string): RubricTable => ({
  levels: [4, 3, 2, 1],
  criteria: [{ id, title: 'First criterion', descriptors: ['', '', '', ''] }],
});
