import Decimal from 'decimal.js';
import { distance } from 'fastest-levenshtein';
import { readNumber, type Part } from '../page/parts';
import type { AnswerKey } from './answer-key';
import { plainAnswer, type Verdict } from './check-answer';

/** A word with at least so many letters may be misspelt by one. */
const LONG_ENOUGH = 5;

/**
 * The share of its points that an answer has where its key gives parts of them, 0 to 1. What is right has all.
 * - Of several choices each right one counts its part, and each other one takes as much off: right minus wrong, not under nothing.
 * - Of pieces each that is on its spot counts its part.
 * - The right number in a unit that is not the one asked for, or of another kind, has half.
 * - A text that differs from an accepted one by one letter has half, from five letters on.
 *
 * That choices are counted right minus wrong is common practice, no source; the halves are ours.
 */
export function shareOfPoints(part: Part, key: AnswerKey, verdict: Verdict | null): Decimal {
  if (verdict === 'right') return new Decimal(1);
  const none = new Decimal(0);
  if (verdict === null || key.kind === 'by hand' || !key.partial) return none;
  switch (key.kind) {
    case 'choice': {
      const hits = part.chosen.filter((id) => key.right.includes(id)).length;
      const misses = part.chosen.length - hits;
      return Decimal.max(0, new Decimal(hits - misses).div(key.right.length));
    }
    case 'pieces': {
      const places = Object.entries(key.places);
      const placed = places.filter(([piece, spot]) => part.chosen.includes(`${piece}@${spot}`));
      return new Decimal(placed.length).div(Math.max(1, places.length));
    }
    case 'number':
      return verdict === 'wrong unit' && isSameNumber(part.answer, key) ? new Decimal('0.5') : none;
    case 'short': {
      const answer = plainAnswer(part.answer);
      const isNear = key.accepted
        .map(plainAnswer)
        .some((text) => text.length >= LONG_ENOUGH && distance(text, answer) === 1);
      return isNear ? new Decimal('0.5') : none;
    }
  }
}

function isSameNumber(
  answer: string,
  { value, tolerance }: { value: string; tolerance: string },
): boolean {
  const digits = readNumber(answer)?.digits;
  return (
    digits !== undefined &&
    new Decimal(digits)
      .minus(value)
      .abs()
      .lte(tolerance || '0')
  );
}
