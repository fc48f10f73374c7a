import { z } from 'zod';
import type { Grant } from '../access/grant';

export type Run = Grant<'run the assignment'>;

const files = z.array(z.uuid()).min(1).max(3000);
/** What can be done with collected files. */
export const CollectingMove = z.discriminatedUnion('move', [
  z.strictObject({ move: z.literal('say whose'), file: z.uuid(), student: z.uuid().nullable() }),
  z.strictObject({ move: z.literal('put aside'), files, away: z.boolean() }),
  z.strictObject({ move: z.literal('collect'), files, handIn: z.boolean() }),
  z.strictObject({ move: z.literal('undo'), files }),
  z.strictObject({ move: z.literal('put together'), file: z.uuid() }),
  z.strictObject({
    move: z.literal('cut'),
    file: z.uuid(),
    cuts: z
      .array(
        z.strictObject({
          pages: z.array(z.int().min(1).max(5000)).min(1).max(500),
          student: z.uuid().nullable(),
        }),
      )
      .min(1)
      .max(500),
  }),
]);
export type Move<M> = Extract<z.infer<typeof CollectingMove>, { move: M }>;
