import Decimal from 'decimal.js';
import { z } from 'zod';
import { MOST_BLOCKS } from '../page/limits';
import type { Part } from '../page/parts';
import { worthOf, type AnswerKey } from './answer-key';
import { checkAnswer, type Verdict } from './check-answer';
import type { Keys } from './key-changes';
import { samePoints, sayPoints } from './points';
import { KeptPoints } from './points-text';
import { shareOfPoints } from './share-of-points';

const VERDICTS = ['right', 'wrong', 'unreadable', 'wrong unit', 'no answer', 'by hand'] as const;

/** Points that a person gives a part, whatever its key says, and why. */
export const GivenPart = z.object({
  points: KeptPoints,
  reason: z.string().trim().max(1000, 'The reason has at most 1000 characters.'),
});
export type GivenPart = z.infer<typeof GivenPart>;

/** What a person gives the parts of a copy, by their ids. */
export const GivenParts = z
  .record(z.string().max(200), GivenPart)
  .refine((parts) => Object.keys(parts).length <= MOST_BLOCKS, 'No page has so many parts.');
export type GivenParts = z.infer<typeof GivenParts>;

/**
 * What the parts of a copy came to when they were checked, or scored one by one. It says nothing of the keys themselves.
 * `sum-parts.ts` reads it.
 */
export const Checked = z.object({
  parts: z
    .array(
      z.object({
        id: z.string().max(200),
        number: z.int(),
        label: z.string().max(500),
        answer: z.string().max(500),
        verdict: z.enum(VERDICTS),
        /** What the part counts for; one point where nothing is said. */
        most: KeptPoints.optional(),
        /** What its key gives; left out of what a person scores, and of older checks, where what is right has all. */
        points: KeptPoints.optional(),
        /** What a person gave it. */
        given: GivenPart.optional(),
        /** In older checks: how a person decided. */
        overruled: z.enum(['right', 'wrong']).optional(),
      }),
    )
    .max(MOST_BLOCKS),
});
export type Checked = z.infer<typeof Checked>;
export type CheckedPart = Checked['parts'][number];

/** Whether a key says nothing of an answer. */
const isLeftToPerson = (key: AnswerKey, verdict: Verdict | null): boolean =>
  key.kind === 'by hand' || (key.kind === 'short' && !!key.othersByHand && verdict === 'wrong');

/** Checks the parts that count for something; null when none does. */
export function checkParts(
  parts: readonly Part[],
  keys: Keys,
  given: GivenParts = {},
): Checked | null {
  const checked = parts.flatMap((part): CheckedPart[] => {
    const key = keys[part.id];
    if (!key) return [];
    const { id, number } = part;
    const most = worthOf(key);
    const verdict = checkAnswer(part, key);
    const own = given[id];
    const byHand = isLeftToPerson(key, verdict);
    return [
      {
        id,
        number,
        label: part.label.slice(0, 500),
        answer: part.answer.slice(0, 500),
        verdict: byHand ? 'by hand' : (verdict ?? 'no answer'),
        most,
        ...(!byHand && {
          points: shareOfPoints(part, key, verdict).times(most).toDecimalPlaces(2).toString(),
        }),
        ...(own && { given: own }),
      },
    ];
  });
  return checked.length > 0 ? { parts: checked } : null;
}

/** Why parts cannot be given these points, in a sentence; null when they can. @param checked the parts without them */
export function givenFault(checked: Checked, given: GivenParts): string | null {
  for (const { id, number, verdict, points, most } of checked.parts) {
    const own = given[id];
    if (!own) continue;
    if (new Decimal(own.points).gt(most ?? '1'))
      return `Part ${number} counts for ${sayPoints(most ?? '1')}, and not for more.`;
    if (verdict !== 'by hand' && own.reason === '' && !samePoints(own.points, points ?? '0'))
      return `Please say why part ${number} has other points than its key gives.`;
  }
  return null;
}
