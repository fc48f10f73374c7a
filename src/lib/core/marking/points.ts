import Decimal from 'decimal.js';

/** "6½" as "6 1/2", "½" as "1/2", full-width digits as digits (Unicode's NFKC). */
const spelled = (text: string): string =>
  text
    .replace(/[¼½¾⅕⅖⅗⅘⅒]/g, (sign) => ` ${sign}`)
    .normalize('NFKC')
    .replace('⁄', '/')
    .replace(',', '.')
    .trim();

/**
 * Points as a person writes them ("6½", "3 1/2", "6,5", "6.5") as a decimal text with at most two places, or null when it is
 * no number of points. Points are never binary floats.
 */
export function readPoints(text: string): string | null {
  const plain = spelled(text);
  if (/^\d{1,6}(\.\d{1,2})?$/.test(plain)) return new Decimal(plain).toString();
  const [, whole = '0', above, below] = /^(?:(\d{1,6})\s+)?(\d{1,2})\/(\d{1,2})$/.exec(plain) ?? [];
  if (above === undefined || below === undefined || Number(below) <= Number(above)) return null;
  const value = new Decimal(above).div(below).plus(whole);
  return value.decimalPlaces() <= 2 ? value.toString() : null;
}

/** Points as a teacher writes them: "6½", "7.25", "10". */
export function writePoints(points: string): string {
  const value = new Decimal(points);
  const whole = value.trunc();
  const half = value.minus(whole).equals('0.5');
  if (half) return whole.isZero() ? '½' : `${whole}½`;
  return value.toString();
}

/** "1 point", "2½ points" */
export const sayPoints = (points: string): string =>
  `${writePoints(points)} ${new Decimal(points).eq(1) ? 'point' : 'points'}`;

export const sumPoints = (some: readonly string[]): string => Decimal.sum(0, ...some).toString();

export const samePoints = (a: string, b: string): boolean => new Decimal(a).eq(b);

/** A sentence when these points are more than the assignment has, else null: more is allowed, but said. */
export function morePointsThanAsked(points: string, most: string | null): string | null {
  if (most === null || new Decimal(points).lte(most)) return null;
  return `${writePoints(points)} is more than the ${writePoints(most)} this assignment has.`;
}
