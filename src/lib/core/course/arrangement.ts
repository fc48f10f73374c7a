import { z } from 'zod';

/** The order somebody wants: units, and in each its pages and rubrics. A unit of null is "in no unit". */
export const Arrangement = z.object({
  units: z
    .array(z.object({ id: z.uuid().nullable(), things: z.array(z.uuid()).max(2000) }))
    .max(500),
});
export type Arrangement = z.infer<typeof Arrangement>;
