import Decimal from 'decimal.js';
import Qty from 'js-quantities';

/** The library converts with binary fractions: what is beyond these digits is noise. */
const DIGITS = 12;

/**
 * A number of one unit in another: 260 "cm" is 2.6 "m".
 * @returns a decimal text; null when a unit is not known, or the two are not of one kind
 */
export function convert(digits: string, from: string, to: string): string | null {
  const [one, other] = [Qty.parse(`1 ${from}`), Qty.parse(`1 ${to}`)];
  if (!one || !other || one.isUnitless() || !one.isCompatible(other)) return null;
  const factor = new Decimal(one.to(other).scalar).toSignificantDigits(DIGITS);
  return new Decimal(digits).times(factor).toSignificantDigits(DIGITS).toString();
}
