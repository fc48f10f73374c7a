import { z } from 'zod';
import { KeptPoints } from './points-text';

const number = z.string().regex(/^-?\d{1,9}(\.\d{1,6})?$/, 'a number is needed');

/** What a part counts for: one point where nothing is said. */
const worth = {
  points: KeptPoints.optional(),
  /** Whether what is partly right has a part of the points, as `share-of-points.ts` says. */
  partial: z.boolean().optional(),
};

/** What a teacher expects in one part, and what it counts for. Kept apart from the page; never sent to a student. */
export const AnswerKey = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('short'),
    accepted: z.array(z.string().max(500)).min(1).max(50),
    /** Whether a person scores what is none of these; otherwise it is wrong. */
    othersByHand: z.boolean().optional(),
    ...worth,
  }),
  z.object({
    kind: z.literal('number'),
    value: number,
    tolerance: z.union([number, z.literal('')]),
    unit: z.string().max(40),
    /** Whether a number in another unit of its kind is wrong, however much it comes to. */
    onlyUnit: z.boolean().optional(),
    /** Other answers that are right, too, as they are written. */
    also: z.array(z.string().max(500)).max(50).optional(),
    ...worth,
  }),
  z.object({
    kind: z.literal('choice'),
    right: z.array(z.string().max(40)).min(1).max(50),
    ...worth,
  }),
  z.object({
    kind: z.literal('pieces'),
    /** The spot on which each piece belongs, by their ids. */
    places: z
      .record(z.string().max(40), z.string().max(40))
      .refine((places) => Object.keys(places).length <= 50, 'at most 50 pieces'),
    ...worth,
  }),
  /** No answer is expected: a person gives the points. */
  z.object({ kind: z.literal('by hand'), points: KeptPoints }),
]);
export type AnswerKey = z.infer<typeof AnswerKey>;

/** What a part with this key counts for. */
export const worthOf = ({ points }: AnswerKey): string => points ?? '1';

const MOST_ANSWERS = 50;

/**
 * The key that takes more answers for right, as they are written. One that left everything to a person still does, for all
 * other answers.
 * @returns null where a key cannot take an answer as it is written, or has as many as it can
 */
export function keyAccepting(key: AnswerKey | null, answers: readonly string[]): AnswerKey | null {
  const and = (known: readonly string[]) => {
    const all = [...new Set([...known, ...answers.map((text) => text.trim().slice(0, 500))])];
    return all.length <= MOST_ANSWERS ? all : null;
  };
  switch (key?.kind) {
    case 'short': {
      const accepted = and(key.accepted);
      return accepted && { ...key, accepted };
    }
    case 'number': {
      const also = and(key.also ?? []);
      return also && { ...key, also };
    }
    case 'by hand': {
      const accepted = and([]);
      return accepted && { kind: 'short', accepted, othersByHand: true, points: key.points };
    }
    default:
      return null;
  }
}
