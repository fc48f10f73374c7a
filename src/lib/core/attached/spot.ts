import { z } from 'zod';

const share = z.number().min(0).max(1);

/**
 * A place on something attached: all of it; a point of a picture, or of a page of a document, as shares of its width and height;
 * a moment of sound or film.
 */
export const Spot = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('whole') }),
  z.strictObject({
    kind: z.literal('point'),
    /** From 1; null of what has no pages. */
    page: z.int().min(1).max(10_000).nullable(),
    x: share,
    y: share,
  }),
  z.strictObject({ kind: z.literal('moment'), seconds: z.number().min(0).max(360_000) }),
]);
export type Spot = z.infer<typeof Spot>;

/** A moment of sound or film: "1:05", "1:02:03". @param seconds from its beginning */
export function sayMoment(seconds: number): string {
  const whole = Math.floor(seconds);
  const two = (n: number) => String(n).padStart(2, '0');
  const [hours, minutes] = [Math.floor(whole / 3600), Math.floor(whole / 60) % 60];
  return hours > 0
    ? `${hours}:${two(minutes)}:${two(whole % 60)}`
    : `${minutes}:${two(whole % 60)}`;
}

/** Where a comment stands on something attached: "sketch.pdf, page 2", "song.mp3 at 0:42". */
export function saySpot(spot: Spot, name: string): string {
  if (spot.kind === 'moment') return `${name} at ${sayMoment(spot.seconds)}`;
  if (spot.kind === 'whole') return name;
  return spot.page === null ? `a point of ${name}` : `${name}, page ${spot.page}`;
}
