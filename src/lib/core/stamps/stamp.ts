import { z } from 'zod';
import { DRAWN_STAMPS, type DrawnName } from './drawn-stamps';

/** The picture of a stamp: one that comes with Uncia, or a teacher's own. */
export const Stamp = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('drawn'),
    name: z.enum(Object.keys(DRAWN_STAMPS) as [DrawnName, ...DrawnName[]]),
  }),
  z.strictObject({ kind: z.literal('own'), id: z.uuid() }),
]);
export type Stamp = z.infer<typeof Stamp>;

/** The longest word of a stamp, in characters. */
export const LONGEST_WORD = 60;
/** The side of an own stamp's picture, in pixels, and the most it weighs, in bytes. */
export const STAMP_SIDE = 192;
export const MOST_BYTES = 100_000;
