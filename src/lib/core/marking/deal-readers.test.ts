import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { dealReaders, readersFault } from './deal-readers';

const dealt = fc
  .tuple(fc.uniqueArray(fc.uuid(), { minLength: 2, maxLength: 60 }), fc.nat())
  .map(([copies, some]) => ({ copies, each: 1 + (some % (copies.length - 1)) }));

describe('dealing copies to classmates', () => {
  it('gives everybody as many as they get, never their own, and none twice', () => {
    fc.assert(
      fc.property(dealt, ({ copies, each }) => {
        expect(readersFault(copies.length, each)).toBeNull();
        const readings = dealReaders(copies, each);
        for (const copy of copies) {
          expect(readings.filter(({ page }) => page === copy)).toHaveLength(each);
          expect(readings.filter(({ by }) => by === copy)).toHaveLength(each);
        }
        expect(readings.some(({ page, by }) => page === by)).toBe(false);
        expect(new Set(readings.map(({ page, by }) => `${page} ${by}`)).size).toBe(readings.length);
      }),
    );
  });

  it('needs more copies than each reads', () => {
    expect(readersFault(0, 1)).toContain('two copies');
    expect(readersFault(1, 1)).toContain('two copies');
    expect(readersFault(3, 3)).toContain('score 2 at most');
    expect(readersFault(3, 0)).toContain('how many');
    expect(readersFault(3, 2)).toBeNull();
  });
});
