import { describe, expect, it } from 'vitest';
import { convert } from './units';

describe('a number in another unit', () => {
  // Prefixes, minute and hour as the SI has them; 1852 m a nautical mile and 0.3048 m a foot by international agreement.
  // All from memory.
  it.each([
    ['260', 'cm', 'm', '2.6'],
    ['2.6', 'm', 'cm', '260'],
    ['1.5', 'km', 'm', '1500'],
    ['90', 'min', 'h', '1.5'],
    ['36', 'km/h', 'm/s', '10'],
    ['1', 'ft', 'm', '0.3048'],
    ['1', 'nmi', 'm', '1852'],
    ['2', 'm2', 'cm2', '20000'],
  ])('%s %s is in %s %s', (digits, from, to, expected) => {
    expect(convert(digits, from, to)).toBe(expected);
  });

  it('is none where the two are not of one kind, or one is not known', () => {
    expect(convert('1', 'kg', 'm')).toBeNull();
    expect(convert('1', 'boats', 'm')).toBeNull();
    expect(convert('1', '', 'm')).toBeNull();
    expect(convert('1', '7', 'm')).toBeNull();
  });
});
