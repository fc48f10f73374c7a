import { describe, expect, it } from 'vitest';
import { rangeOf } from './address';

describe('the range of an address', () => {
  it.each([
    ['203.0.113.7', '203.0.113'],
    ['::ffff:203.0.113.9', '203.0.113'],
    ['2001:db8:1:2::5', '2001:0db8:0001'],
    ['2001:db8::5', '2001:0db8:0000'],
    ['::1', '0000:0000:0000'],
  ])('of %s is %s', (address, range) => expect(rangeOf(address)).toBe(range));
});
