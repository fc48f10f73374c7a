import Decimal from 'decimal.js';

const FRACTIONS: Record<string, string> = { '¼': '.25', '½': '.5', '¾': '.75' };

/**
 * Points as a person writes them ("6½", "6,5", "6.5") as a decimal text with at most two places, or null when it is
 * no number of points. Points are never binary floats.
 */
export function readPoints(text: string): string | null {
  const plain = text
    .trim()
    .replace(/^([¼½¾])$/, '0$1')
    .replace(/[¼½¾]$/, (sign) => FRACTIONS[sign] ?? '')
    .replace(',', '.');
  return /^\d{1,6}(\.\d{1,2})?$/.test(plain) ? new Decimal(plain).toString() : null;
}

/** Points as a teacher writes them: "6½", "7.25", "10". */
export function writePoints(points: string): string {
  const value = new Decimal(points);
  const whole = value.trunc();
  const half = value.minus(whole).equals('0.5');
  if (half) return whole.isZero() ? '½' : `${whole}½`;
  return value.toString();
}

export const samePoints = (a: string, b: string): boolean => new Decimal(a).eq(b);

/** A sentence when these points are more than the assignment has, else null: more is allowed, but said. */
export function morePointsThanAsked(points: string, most: string | null): string | null {
  if (most === null || new Decimal(points).lte(most)) return null;
  return `${writePoints(points)} is more than the ${writePoints(most)} this assignment has.`;
}
