import { z } from 'zod';

const number = z.string().regex(/^-?\d{1,9}(\.\d{1,6})?$/, 'a number is needed');

/** What a teacher expects in one part. Kept apart from the page; never sent to a student. */
export const AnswerKey = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('short'), accepted: z.array(z.string().max(500)).min(1).max(50) }),
  z.object({
    kind: z.literal('number'),
    value: number,
    tolerance: z.union([number, z.literal('')]),
    unit: z.string().max(40),
    /** Whether a number in another unit of its kind is wrong, however much it comes to. */
    onlyUnit: z.boolean().optional(),
  }),
  z.object({ kind: z.literal('choice'), right: z.array(z.string().max(40)).min(1).max(50) }),
  z.object({
    kind: z.literal('pieces'),
    /** The spot on which each piece belongs, by their ids. */
    places: z
      .record(z.string().max(40), z.string().max(40))
      .refine((places) => Object.keys(places).length <= 50, 'at most 50 pieces'),
  }),
]);
export type AnswerKey = z.infer<typeof AnswerKey>;
