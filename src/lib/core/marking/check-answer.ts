import Decimal from 'decimal.js';
import { readNumber, type Part } from '../page/parts';
import type { AnswerKey } from './answer-key';
import { convert } from './units';

export type Verdict = 'right' | 'wrong' | 'unreadable' | 'wrong unit';

/** An answer without regard to case and spacing. */
export const plainAnswer = (text: string) =>
  text.normalize('NFKC').trim().replace(/\s+/g, ' ').toLocaleLowerCase('en');

function checkNumber(answer: string, key: Extract<AnswerKey, { kind: 'number' }>): Verdict {
  if (key.also?.some((text) => plainAnswer(text) === plainAnswer(answer))) return 'right';
  const read = readNumber(answer);
  if (!read) return 'unreadable';
  const isOther =
    read.unit !== '' && key.unit !== '' && plainAnswer(read.unit) !== plainAnswer(key.unit);
  const digits = isOther && !key.onlyUnit ? convert(read.digits, read.unit, key.unit) : read.digits;
  if (digits === null || (isOther && key.onlyUnit)) return 'wrong unit';
  const apart = new Decimal(digits).minus(key.value).abs();
  return apart.lte(key.tolerance || '0') ? 'right' : 'wrong';
}

/**
 * Checks one answer against its key. A number is right within its tolerance, both ends included; a unit may be left
 * out, or be another of its kind unless the key wants this one; a text is compared without regard to case and spacing; a choice needs all and only the
 * right options; of pieces, each that belongs somewhere must be there.
 * @returns null where there is nothing to check: no answer, a key of another kind, or one that leaves it to a person
 */
export function checkAnswer(part: Part, key: AnswerKey): Verdict | null {
  const { chosen } = part;
  if (key.kind === 'by hand') return null;
  if (key.kind === 'pieces') {
    if (part.kind !== 'drawing' || chosen.length === 0) return null;
    const places = Object.entries(key.places);
    return places.every(([piece, spot]) => chosen.includes(`${piece}@${spot}`)) ? 'right' : 'wrong';
  }
  if (key.kind === 'choice') {
    if (part.kind !== 'choice' || chosen.length === 0) return null;
    const same = chosen.length === key.right.length && chosen.every((id) => key.right.includes(id));
    return same ? 'right' : 'wrong';
  }
  if (part.answer === '' || part.kind !== key.kind) return null;
  if (key.kind === 'number') return checkNumber(part.answer, key);
  return key.accepted.some((text) => plainAnswer(text) === plainAnswer(part.answer))
    ? 'right'
    : 'wrong';
}
